/** Workshop: what this machine is. Its path, fittings, materials, the shelf, its name; other machines and devices. */

import QRCode from "qrcode";
import { data, Form, Link, redirect } from "react-router";
import { agents } from "#catalog/agents";
import { materialKinds } from "#catalog/materials";
import { NOMINAL_TRANSMISSION, type StationRole } from "#core/beam";
import { BEARINGS, BEDS, COOLINGS, EXTRAS, LIDS, OPTICS_ORDERS, pathProblems, SCHOOLS, standing, staysInPlace } from "#core/machine";
import { trouble } from "../../server/forms";
import { recordId, saving } from "../../server/saving";
import { MachineRail } from "../../shell/route";
import { NumberField, SelectField, TextField, Tick } from "../../ui/fields";
import { sendKept } from "../../ui/sending";
import { findMachine, gatherOnce } from "../gather";
import { startingLayout } from "../trade";
import { dayAndTime, number, shortDay } from "../words";
import type { Route } from "./+types/route";
import { Changed, type Stale } from "./Changed";
import { edit, nameplateOf, orderOf, settingOf, shelfOf, versionText, withoutShelf } from "./edit";
import { MaterialAdd, MaterialRow } from "./Materials";
import { PathEditor } from "./PathEditor";
import { StationForm } from "./StationForm";
import { EXTRA_WORDS, FITTING_WORDS, MOUNT_WORDS, ROLE_WORDS } from "./words";

const TABS = [
  { id: "path", name: "Beam path" },
  { id: "fittings", name: "Fittings" },
  { id: "materials", name: "Materials" },
  { id: "shelf", name: "Shelf" },
  { id: "machine", name: "Machine" },
  { id: "devices", name: "Devices" },
] as const;

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const search = new URL(request.url).searchParams;
  const { path, fittings } = g.trade.layout;
  const on = standing(path);
  const station = on.find((s) => s.id === search.get("station")) ?? on.find((s) => s.role === "mirror") ?? on[0];
  const has = (role: StationRole) => on.some((s) => s.role === role);
  const urls = context.lanUrls;
  const tab = TABS.find((t) => t.id === search.get("tab"))?.id ?? "path";
  // Which devices are signed in, and which of them is this one, is nobody else's page.
  if (tab === "devices") context.personal();
  const sessions = tab === "devices" ? ((await context.door?.sessions()) ?? []) : [];
  return {
    slug: g.machine.slug,
    name: g.machine.name,
    layout: startingLayout(g.machine.layout).name,
    ratedPowerW: number(g.machine.ratedPowerW, 0),
    ratedTubeHours: number(g.machine.ratedTubeHours, 0),
    tab,
    problems: pathProblems(path),
    rows: on.map((s) => ({
      id: s.id,
      name: s.name,
      what: s.name.toLowerCase().includes(ROLE_WORDS[s.role]) ? "" : ROLE_WORDS[s.role],
      how:
        s.role === "mirror"
          ? `${MOUNT_WORDS[s.mount].replace(/ \(.*/, "")}, cleaned ${staysInPlace(s) ? "in place" : "out"}`
          : s.role === "lens"
            ? MOUNT_WORDS[s.mount]
            : (s.panel ?? ""),
    })),
    hidden: path.filter((s) => s.hidden).map((s) => ({ id: s.id, name: s.name })),
    addable: (["mirror", "side-window", "tube", "window", "lens", "nozzle"] as const)
      .filter((r) => r === "mirror" || !has(r))
      .map((role) => ({ role, name: role === "mirror" ? "a mirror" : role === "side-window" ? "a window" : `the ${ROLE_WORDS[role]}` })),
    station,
    nominalPercent: station ? number(100 * NOMINAL_TRANSMISSION[station.role]) : "",
    fittings,
    materials: g.materials.map((m) => {
      const kind = materialKinds.find((k) => k.id === m.kind);
      return {
        id: m.id,
        name: m.name,
        thickness: number(m.thicknessMm),
        kind: kind?.name ?? m.kind,
        dirt: kind?.dirt ?? "resin",
        speed: m.usualSpeedMmPerS === undefined ? "" : number(m.usualSpeedMmPerS),
        power: m.usualSetPercent === undefined ? "" : number(m.usualSetPercent, 0),
        optics: m.smokeOptics === undefined ? "" : number(m.smokeOptics, 2),
        nozzle: m.smokeNozzle === undefined ? "" : number(m.smokeNozzle, 2),
        usualOptics: number(kind?.optics ?? 1, 2),
        usualNozzle: number(kind?.nozzle ?? 1, 2),
        hidden: m.hidden,
        madeFrom: versionText(settingOf(m)),
      };
    }),
    kinds: materialKinds.map((k) => ({ value: k.id, label: k.name })),
    shelf: agents
      .filter((a) => !NEVER_OWNED.has(a.id))
      .map((a) => ({ id: a.id, name: a.name, kind: a.kind, owned: fittings.agents?.includes(a.id) ?? false })),
    shelfKnown: fittings.agents !== undefined,
    madeFrom: {
      station: versionText(station ?? {}),
      order: orderOf(path),
      fittings: versionText(withoutShelf(fittings)),
      shelf: versionText(shelfOf(fittings)),
      machine: versionText(nameplateOf(g.machine)),
    },
    sessions: sessions.map((s) => ({
      id: s.id,
      device: s.device,
      address: s.address,
      seen: dayAndTime(s.seenMs),
      since: shortDay(s.createdMs),
      here: s.id === context.sessionId,
    })),
    machines: g.machines.map((m) => ({
      slug: m.slug,
      name: m.name,
      here: m.slug === g.machine.slug,
      layout: startingLayout(m.layout).name,
    })),
    lan:
      urls.length > 0
        ? await Promise.all(urls.map(async (url) => ({ url, qr: await QRCode.toString(url, { type: "svg", margin: 1 }) })))
        : [],
  };
}

/** In the matrix so that they can be refused, but nothing one keeps on the shelf for this. */
const NEVER_OWNED: ReadonlySet<string> = new Set(["used-swab", "tap-water", "vinegar", "paper-towel", "abrasive", "ethylene-glycol"]);

export const action = saving(async (reader, { request, params, context }: Route.ActionArgs) => {
  const { machine } = await findMachine(context, params.machine);
  const intent = reader.text("intent") ?? "";
  if (intent === "end-session") {
    const id = recordId(reader.text("session"));
    if (id === undefined || !context.door) return data({ ...trouble(reader, { "": "There is no such device." }), intent }, { status: 400 });
    await context.door.signOut(id);
    return { said: "Signed out. It has to give the passphrase again.", errors: {}, typed: {}, intent };
  }
  const result = await edit(context, machine, reader);
  if ("errors" in result)
    return data({ ...trouble(reader, result.errors), intent, stale: result.stale }, { status: result.stale ? 409 : 400 });
  const here = new URL(request.url);
  if (intent === "remove") return redirect(`${here.pathname}?tab=path&said=${encodeURIComponent(result.said)}`);
  return { said: result.said, errors: {}, typed: {}, intent };
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

type Loaded = Route.ComponentProps["loaderData"];

/** What came of a form: said when it was saved, else what is wrong, and what another device changed. */
interface Answer {
  readonly said?: string | undefined;
  readonly errors: Readonly<Record<string, string>>;
  readonly typed: Readonly<Record<string, string>>;
  readonly intent?: string | undefined;
  readonly stale?: Stale | undefined;
}

export default function Workshop({ loaderData: d, actionData }: Route.ComponentProps) {
  const answer: Answer | undefined = actionData;
  const errors = answer?.errors ?? {};
  const typed: Readonly<Record<string, string>> = Object.keys(errors).length > 0 || answer?.stale ? (answer?.typed ?? {}) : {};
  const intent = answer?.intent ?? "";
  const stale = answer?.stale;
  const staleOf = (form: string, material?: number) =>
    intent === form && (material === undefined || typed.material === String(material)) ? stale : undefined;
  const from = (form: keyof Loaded["madeFrom"]) => staleOf(form)?.madeFrom ?? d.madeFrom[form];
  const said = answer?.said;
  const problem = errors.path ?? errors[""];
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div>
          <h1 className="verdict">
            {d.name}, {d.ratedPowerW} W
          </h1>
          <p className="lead">
            Began as: {d.layout.toLowerCase()}. Everything here decides what a round asks for, what is due and what a trace suspects.
          </p>
        </div>
        <nav className="tabs" aria-label="Parts of the workshop">
          {TABS.map((t) => (
            <Link key={t.id} className="button" to={`?tab=${t.id}`} aria-current={d.tab === t.id ? "page" : undefined}>
              {t.name}
            </Link>
          ))}
        </nav>
        {problem ? (
          <p className="form-error" role="alert">
            {problem}
          </p>
        ) : null}

        {said ? (
          <p className="said" role="status">
            {said}
          </p>
        ) : null}
        {d.tab === "path" ? (
          <div className="editor">
            <PathEditor rows={d.rows} madeFrom={d.madeFrom.order} chosen={d.station?.id} addable={d.addable} hidden={d.hidden} />
            {d.station ? (
              <StationForm
                key={d.station.id}
                station={d.station}
                nominalPercent={d.nominalPercent}
                madeFrom={from("station")}
                stale={staleOf("station")}
                errors={intent === "station" ? errors : {}}
                typed={intent === "station" ? typed : {}}
              />
            ) : null}
          </div>
        ) : null}
        {d.tab === "fittings" ? <Fittings d={d} madeFrom={from("fittings")} stale={staleOf("fittings")} /> : null}
        {d.tab === "materials" ? (
          <div className="stack loose">
            <ul className="lines materials">
              {d.materials.map((m) => (
                <MaterialRow
                  key={m.id}
                  material={m}
                  madeFrom={staleOf("material", m.id)?.madeFrom ?? m.madeFrom}
                  stale={staleOf("material", m.id)}
                  errors={intent === "material" && typed.material === String(m.id) ? errors : {}}
                />
              ))}
            </ul>
            <MaterialAdd
              kinds={d.kinds}
              errors={intent === "new-material" ? errors : {}}
              typed={intent === "new-material" ? typed : {}}
              saved={said}
            />
          </div>
        ) : null}
        {d.tab === "shelf" ? <Shelf d={d} madeFrom={from("shelf")} stale={staleOf("shelf")} /> : null}
        {d.tab === "machine" ? (
          <MachineTab
            d={d}
            madeFrom={from("machine")}
            stale={staleOf("machine")}
            errors={intent === "machine" ? errors : {}}
            typed={intent === "machine" ? typed : {}}
          />
        ) : null}
        {d.tab === "devices" ? <Devices d={d} /> : null}
      </main>
    </div>
  );
}

function Fittings({ d, madeFrom, stale }: { d: Loaded; madeFrom: string; stale: Stale | undefined }) {
  const choose = <K extends keyof typeof FITTING_WORDS>(
    name: K,
    label: string,
    values: readonly (keyof (typeof FITTING_WORDS)[K] & string)[],
  ) => (
    <SelectField
      name={name}
      label={label}
      options={values.map((v) => ({ value: v, label: String(FITTING_WORDS[name][v]) }))}
      defaultValue={String(d.fittings[name])}
    />
  );
  return (
    <Form method="post" className="card strong stack" preventScrollReset>
      <input type="hidden" name="intent" value="fittings" />
      <input type="hidden" name="madeFrom" value={madeFrom} />
      <div className="fields">
        {choose("bearing", "Rails and bearings", BEARINGS)}
        {choose("cooling", "Cooling", COOLINGS)}
        {choose("lid", "Lid", LIDS)}
        {choose("bed", "Bed", BEDS)}
      </div>
      <div className="fields">
        {choose("school", "How often", SCHOOLS)}
        {choose("opticsOrder", "Order of the optics", OPTICS_ORDERS)}
      </div>
      <fieldset className="parts">
        <legend className="label-line">It has</legend>
        {EXTRAS.map((e) => (
          <Tick key={e} name="extra" value={e} label={EXTRA_WORDS[e]} defaultChecked={d.fittings.extras.includes(e)} />
        ))}
      </fieldset>
      <Changed stale={stale} />
      <button type="submit" className="button primary" style={{ width: "fit-content" }}>
        Save fittings
      </button>
    </Form>
  );
}

const SHELF_GROUPS = [
  { title: "Liquids", kinds: ["liquid", "powder"] },
  { title: "Cloths and swabs", kinds: ["cloth"] },
  { title: "Air, brushes, tools", kinds: ["air", "tool"] },
  { title: "Lubricants", kinds: ["lubricant"] },
] as const;

function Shelf({ d, madeFrom, stale }: { d: Loaded; madeFrom: string; stale: Stale | undefined }) {
  return (
    <Form method="post" className="card strong stack loose" preventScrollReset>
      <input type="hidden" name="intent" value="shelf" />
      <input type="hidden" name="madeFrom" value={madeFrom} />
      <p className="soft">
        {d.shelfKnown
          ? "A round takes what you have, as far as it may touch the part, and says what is missing."
          : "Tick what you have. Until then every round names the agent that does it best."}
      </p>
      {SHELF_GROUPS.map((group) => (
        <fieldset className="parts" key={group.title}>
          <legend className="label-line">{group.title}</legend>
          {d.shelf
            .filter((a) => (group.kinds as readonly string[]).includes(a.kind))
            .map((a) => (
              <Tick key={a.id} name="agent" value={a.id} label={a.name} defaultChecked={a.owned} />
            ))}
        </fieldset>
      ))}
      <Changed stale={stale} />
      <button type="submit" className="button primary" style={{ width: "fit-content" }}>
        Save the shelf
      </button>
    </Form>
  );
}

function MachineTab({
  d,
  madeFrom,
  stale,
  errors,
  typed,
}: {
  d: Loaded;
  madeFrom: string;
  stale: Stale | undefined;
  errors: Readonly<Record<string, string>>;
  typed: Readonly<Record<string, string>>;
}) {
  return (
    <div className="stack loose">
      <Form method="post" className="card strong stack" preventScrollReset>
        <input type="hidden" name="intent" value="machine" />
        <input type="hidden" name="madeFrom" value={madeFrom} />
        <div className="fields">
          <TextField name="name" label="Name" defaultValue={typed.name ?? d.name} error={errors.name} />
          <NumberField
            name="ratedPowerW"
            label="Rated power"
            unit="W"
            defaultValue={typed.ratedPowerW ?? d.ratedPowerW}
            error={errors.ratedPowerW}
          />
          <NumberField
            name="ratedTubeHours"
            label="Rated tube life"
            unit="h"
            defaultValue={typed.ratedTubeHours ?? d.ratedTubeHours}
            error={errors.ratedTubeHours}
          />
        </div>
        <Changed stale={stale} />
        <button type="submit" className="button primary" style={{ width: "fit-content" }}>
          Save
        </button>
      </Form>
      <section>
        <h2 className="small-title">Machines</h2>
        <ul className="lines">
          {d.machines.map((m) => (
            <li key={m.slug} className="between">
              <Link to={`/${m.slug}/workshop`}>{m.name}</Link>
              <span className="soft">
                {m.layout}
                {m.here ? ", this one" : ""}
              </span>
            </li>
          ))}
        </ul>
        <Link className="button" to="/start" style={{ marginTop: 12 }}>
          Add a machine
        </Link>
      </section>
    </div>
  );
}

function Devices({ d }: { d: Loaded }) {
  if (d.lan.length === 0) {
    return (
      <section className="card stack">
        <h2 className="card-title">Only this computer, so far.</h2>
        <p>
          To walk a round with a phone, start Clenor with <code>npm start -- --lan</code>. It asks for a passphrase, then shows an address
          and a code to point the phone's camera at.
        </p>
        <p className="soft">
          The workshop's network only: the connection is not encrypted, so use it in a network you trust and with a passphrase you use
          nowhere else.
        </p>
      </section>
    );
  }
  return (
    <section className="card strong stack">
      <h2 className="card-title">Point a phone's camera at one of these.</h2>
      <div className="row" style={{ alignItems: "flex-start", gap: 28 }}>
        {d.lan.map((l) => (
          <figure key={l.url} style={{ margin: 0 }}>
            {/* biome-ignore lint/security/noDangerouslySetInnerHtml: drawn by our own server from its own address */}
            <div className="qr" role="img" aria-label={`Code for ${l.url}`} dangerouslySetInnerHTML={{ __html: l.qr }} />
            <figcaption>{l.url}</figcaption>
          </figure>
        ))}
      </div>
      <p className="soft">It asks for the passphrase once per device. Use it in a network you trust: the connection is not encrypted.</p>
      <Sessions sessions={d.sessions} />
    </section>
  );
}

function Sessions({ sessions }: { sessions: Loaded["sessions"] }) {
  return (
    <div>
      <h3 className="small-title">Devices signed in</h3>
      {sessions.length === 0 ? <p className="soft">None yet.</p> : null}
      <ul className="lines">
        {sessions.map((s) => (
          <li key={s.id} className="between">
            <span className="grow">
              <b>{s.device}</b>
              {s.here ? ", this one" : ""}{" "}
              <span className="soft">
                {s.address} · seen {s.seen} · since {s.since}
              </span>
            </span>
            <Form method="post" preventScrollReset>
              <input type="hidden" name="intent" value="end-session" />
              <button type="submit" name="session" value={s.id} className="button" aria-label={`Sign out ${s.device}`}>
                Sign out
              </button>
            </Form>
          </li>
        ))}
      </ul>
    </div>
  );
}
