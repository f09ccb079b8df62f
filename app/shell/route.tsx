/** Bar, warnings that the machine is not to be fired, and the beam line that every place of a machine shares. */
import { Button } from "antd";
import { Suspense, useEffect, useRef, useState } from "react";
import { Link, Outlet, type ShouldRevalidateFunctionArgs, useLocation, useNavigate } from "react-router";
import { gatherOnce } from "#services/machine/gather";
import { shellView } from "#services/machine/shellView";
import { reading } from "../server/reading";
import { pageIsAwake } from "../ui/arrival";
import { fetched } from "../ui/fetched";
import type { Route } from "./+types/route";
import type { OpenCard } from "./Cards";
import { Machine } from "./Machine";

/** They come as soon as the page is awake, before anything else is fetched, so that they open without a network. */
const cards = () => import("./Cards");
const Cards = fetched(() => cards().then((m) => m.Cards));

/** In the order of the work; what belongs to one of them without standing in the bar is named with it. */
const PLACES = [
  { to: "today", name: "Today", holds: ["machines"] },
  { to: "round", name: "Round", holds: [] },
  { to: "plan", name: "Plan", holds: [] },
  { to: "log", name: "Log", holds: [] },
  { to: "trace", name: "Trace", holds: [] },
  { to: "outlook", name: "Outlook", holds: [] },
  { to: "kit", name: "Kit", holds: ["gate", "aim", "coupons", "mixes", "glossary"] },
] as const satisfies readonly { to: string; name: string; holds: readonly string[] }[];

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => ({
  ...shellView(await gatherOnce(context, params.machine), context.freshKey()),
  signedIn: context.signedIn,
}));

/** Steps answered in a round change nothing in the bar or the beam line until the round ends. */
export function shouldRevalidate({ formData, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs): boolean {
  return formData?.get("intent") === "answer" ? false : defaultShouldRevalidate;
}

export function meta({ data }: Route.MetaArgs) {
  return [{ title: data ? `${data.name} · Clenor` : "Clenor" }];
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
  const [card, setCard] = useState<OpenCard>();
  const { pathname } = useLocation();
  const here = pathname === `/${slug}/round/${openRound?.id}`;
  // After the effects of what is inside: only those ran while the page woke up.
  useEffect(pageIsAwake, []);
  // Asked for again when it is opened, where it cannot be had now.
  useEffect(() => void cards().catch(() => undefined), []);
  useKeys(slug, setCard);
  return (
    <>
      <a className="skip" href="#page">
        Skip to the page
      </a>
      <header className={here ? "bar slim" : "bar"}>
        <Link to={`/${slug}/today`} className="wordmark" aria-label="Clenor, to Today">
          clenor<i>.</i>
        </Link>
        <Places slug={slug} at={pathname.split("/")[2] ?? "today"} />
        <Button ghost className="emergency" onClick={() => setCard("emergency")}>
          Emergency
        </Button>
        <Machine
          slug={slug}
          name={name}
          // A single round or case belongs to its machine alone.
          place={pathname.split("/")[2] ?? "today"}
          machines={loaderData.machines}
          signedIn={loaderData.signedIn}
        />
      </header>
      {openRound?.apart ? (
        <div className="apart" role="status">
          <span>Machine apart: do not fire.</span>
          {here ? null : <Link to={`/${slug}/round/${openRound.id}`}>To the open round</Link>}
        </div>
      ) : null}
      {loaderData.stop && !openRound?.apart && !here && pathname !== `/${slug}/today` ? (
        <div className="apart" role="status">
          <span>Do not fire: {loaderData.stop}.</span>
          <Link to={`/${slug}/today`}>What to do</Link>
        </div>
      ) : null}
      {loaderData.isAiming && pathname !== `/${slug}/aim` ? (
        <div className="apart" role="status">
          <span>Power limit is still low from alignment: reset it before you cut.</span>
          <Link to={openRound?.isTurnedDown ? `/${slug}/round/${openRound.id}` : `/${slug}/aim`}>
            {openRound?.isTurnedDown ? "To the open round" : "To Alignment"}
          </Link>
        </div>
      ) : null}
      <div id="page">
        <Outlet />
      </div>
      {card ? (
        <Suspense>
          <Cards open={card} powerW={loaderData.powerW} manual={loaderData.manual} onClose={() => setCard(undefined)} />
        </Suspense>
      ) : null}
    </>
  );
}

/** The places; on a phone they scroll, and the one that is shown is in view. */
function Places({ slug, at }: { slug: string; at: string }) {
  const nav = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: whenever another place is shown
  useEffect(() => {
    const here = nav.current?.querySelector<HTMLElement>("[aria-current]");
    if (here && nav.current) nav.current.scrollLeft = here.offsetLeft - nav.current.offsetLeft - 24;
  }, [at]);
  return (
    <nav className="places" aria-label="Places" ref={nav}>
      {PLACES.map(({ to, name, holds }) => (
        <Link
          key={to}
          to={`/${slug}/${to}`}
          aria-current={at === to ? "page" : (holds as readonly string[]).includes(at) ? "true" : undefined}
        >
          {name}
        </Link>
      ))}
    </nav>
  );
}

/** Single keys that work in every place of a machine. */
function useKeys(slug: string, setCard: (card: OpenCard) => void): void {
  const navigate = useNavigate();
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
  }, [navigate, slug, setCard]);
}
