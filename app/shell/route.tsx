/** Bar, warning that the machine is apart, and the beam line that every place of a machine shares. */
import { Dropdown, Modal } from "antd";
import { useEffect, useState } from "react";
import { Form, Link, NavLink, Outlet, type ShouldRevalidateFunctionArgs, useLocation, useNavigate, useRouteLoaderData } from "react-router";
import { findRound } from "#store/rounds";
import { pageIsAwake } from "../ui/arrival";
import { BeamLine, type Suspicion } from "../ui/BeamLine";
import { beamLine } from "../workshop/beamLine";
import { gatherOnce } from "../workshop/gather";
import { planOfRound } from "../workshop/trade";
import type { Route } from "./+types/route";

const PLACES = [
  { to: "today", name: "Today" },
  { to: "round", name: "Round" },
  { to: "log", name: "Log" },
  { to: "trace", name: "Trace" },
  { to: "mixes", name: "Mixes" },
] as const;

export async function loader({ params, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const round = g.openRound && (await findRound(context.store, g.machine.id, g.openRound.id));
  return {
    slug: g.machine.slug,
    name: g.machine.name,
    machines: g.machines.map((m) => ({ slug: m.slug, name: m.name })),
    powerW: g.machine.ratedPowerW,
    signedIn: context.signedIn,
    openRound: round && { id: round.id, title: round.title, apart: planOfRound(g.trade, round).apart },
    beam: beamLine(g, context.freshKey()),
  };
}

/** Steps answered in a round change nothing in the bar or the beam line until the round ends. */
export function shouldRevalidate({ formData, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs): boolean {
  return formData?.get("intent") === "answer" ? false : defaultShouldRevalidate;
}

export function meta({ data }: Route.MetaArgs) {
  return [{ title: data ? `${data.name} · Clenor` : "Clenor" }];
}

/** The beam line of the machine in view; in Trace it carries suspicion. */
export function MachineRail({ suspicion }: { suspicion?: Readonly<Record<string, Suspicion>> }) {
  const shell = useRouteLoaderData<typeof loader>("shell");
  if (!shell) return null;
  return (
    <aside className="rail">
      <BeamLine data={shell.beam} {...(suspicion ? { suspicion } : {})} />
    </aside>
  );
}

/** Single keys work only while nobody is typing. */
function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  return (
    target.closest("input:not([type=radio]):not([type=checkbox]), textarea, [role=combobox], [contenteditable]") !== null ||
    event.ctrlKey ||
    event.metaKey ||
    event.altKey
  );
}

export default function Shell({ loaderData }: Route.ComponentProps) {
  const { slug, name, openRound } = loaderData;
  const [card, setCard] = useState<"emergency" | "keys" | undefined>(undefined);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const here = pathname === `/${slug}/round/${openRound?.id}`;
  // Another machine, the same place of it; a single round or case belongs to its machine alone.
  const place = pathname.split("/")[2] ?? "today";
  const menu = [
    ...loaderData.machines.map((m) => ({
      key: m.slug,
      label: <Link to={`/${m.slug}/${place}`}>{m.name}</Link>,
      className: m.slug === slug ? "menu-here" : "",
    })),
    { type: "divider" as const },
    { key: "workshop", label: <Link to={`/${slug}/workshop`}>Workshop of {name}</Link> },
    { key: "add", label: <Link to="/start">Add a machine</Link> },
    ...(loaderData.signedIn
      ? [
          {
            key: "out",
            label: (
              <Form method="post" action="/sign-in">
                <button type="submit" name="intent" value="out" className="menu-button">
                  Sign out
                </button>
              </Form>
            ),
          },
        ]
      : []),
  ];
  // After the effects of what is inside: only those ran while the page woke up.
  useEffect(pageIsAwake, []);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event)) return;
      if (event.key === "!" || event.key === "e") setCard("emergency");
      else if (event.key === "?") setCard("keys");
      else if (event.key === "g") navigate(`/${slug}/today`);
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [navigate, slug]);
  return (
    <>
      <a className="skip" href="#page">
        Skip to the page
      </a>
      <header className={here ? "bar slim" : "bar"}>
        <Link to={`/${slug}/today`} className="wordmark" aria-label="Clenor, to Today">
          clenor<i>.</i>
        </Link>
        <nav className="places" aria-label="Places">
          {PLACES.map((place) => (
            <NavLink key={place.to} to={`/${slug}/${place.to}`}>
              {place.name}
            </NavLink>
          ))}
        </nav>
        <button type="button" className="button quiet" style={{ color: "#fafcfa" }} onClick={() => setCard("emergency")}>
          Emergency
        </button>
        <Dropdown menu={{ items: menu }} trigger={["click"]} placement="bottomRight">
          <button type="button" className="machine-name" aria-label={`${name}: other machines and the workshop`}>
            {name} <span aria-hidden="true">▾</span>
          </button>
        </Dropdown>
      </header>
      {openRound?.apart ? (
        <div className="apart" role="status">
          <span>Machine apart: do not fire.</span>
          {here ? null : <Link to={`/${slug}/round/${openRound.id}`}>To the open round</Link>}
        </div>
      ) : null}
      <div id="page">
        <Outlet />
      </div>
      <Modal open={card === "emergency"} onCancel={() => setCard(undefined)} footer={null} title="Emergency" width={640}>
        <ul className="lines">
          <li>
            <b>Fire.</b> Lid shut, power off at the wall, extinguisher. Not out at once: leave, fire brigade.
          </li>
          <li>
            <b>Beam in the eye or on the skin.</b> Do not rub. Doctor at once; say: carbon dioxide laser, 10.6 micrometre,{" "}
            {loaderData.powerW} watts.
          </li>
          <li>
            <b>Cracked optic.</b> Do not blow, wipe or vacuum. Mask and gloves, pick it up damp, sealed bag, hazardous waste.
          </li>
          <li>
            <b>Coolant leak.</b> Mains off first, at the wall, dry hands. Then the water.
          </li>
          <li>
            <b>Chemical splash.</b> Rinse with running water for 15 minutes, label to the doctor.
          </li>
        </ul>
        <p className="soft small" style={{ marginTop: 12 }}>
          Local emergency numbers, the maker's manual and qualified people come first.
        </p>
      </Modal>
      <Modal open={card === "keys"} onCancel={() => setCard(undefined)} footer={null} title="Keys" width={480}>
        <ul className="lines">
          <li>
            <kbd>e</kbd> emergency card
          </li>
          <li>
            <kbd>g</kbd> to Today
          </li>
          <li>
            In a round: <kbd>Space</kbd> next step, <kbd>Backspace</kbd> back, <kbd>1</kbd> to <kbd>5</kbd> the grades, <kbd>T</kbd> timer,{" "}
            <kbd>P</kbd> photo
          </li>
        </ul>
      </Modal>
    </>
  );
}
