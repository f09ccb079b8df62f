/** Log: enter what happened fast, correct it without losing history, read it back. */
import dayjs from "dayjs";
import { data, Form, Link, redirect, type ShouldRevalidateFunctionArgs, useNavigation } from "react-router";
import { EVENT_KINDS, type MachineEvent } from "#core/events";
import { appendCorrection, appendEvents, CorrectedMeanwhile, type NewEvent } from "#store/events";
import { once, rowKey } from "#store/sent";
import { type FormReader, trouble } from "../server/forms";
import { recordId, saving, sentAs } from "../server/saving";
import { MachineRail } from "../shell/route";
import { FormProblem, RequestKey, TextField } from "../ui/fields";
import { PowerChart } from "../ui/PowerChart";
import { keyAfter, sendKept } from "../ui/sending";
import { gather, gatherOnce } from "../workshop/gather";
import { powerSeries } from "../workshop/powerSeries";
import { number, shortDay } from "../workshop/words";
import type { Route } from "./+types/route";
import { describeEvent } from "./describeEvent";
import { EntryForm } from "./EntryForm";
import { ENTRY_KINDS, type EntryKind, isEntryKind, readEntry } from "./entries";
import { entryOptions } from "./options";

const PAGE = 60;
const EARLIEST_YEAR = 1980;
const KIND_NAMES: Readonly<Record<EntryKind, string>> = {
  hours: "Hours",
  job: "Job",
  cut: "Cut",
  ladder: "Ladder",
  power: "Watts",
  grade: "Look",
  note: "Note",
};

/** Fills the form again from a stored record, to correct it. */
function typedFrom(event: MachineEvent): Record<string, string> {
  const typed: Record<string, string> = { at: dayjs(event.atMs).format("YYYY-MM-DD HH:mm") };
  for (const [key, value] of Object.entries(event.payload)) {
    if (typeof value === "string" || typeof value === "number") typed[key] = String(value);
    if (value === true) typed[key] = "1";
  }
  if (event.kind === "ladder") {
    event.payload.rungs.forEach((rung, i) => {
      typed[`speed-${i}`] = number(rung.speedMmPerS, 2);
      typed[`end-${i}`] = rung.end;
    });
  }
  if (event.kind === "power") for (const r of event.payload.readings) typed[`power-${r.station}`] = number(r.powerW, 2);
  return typed;
}

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const url = new URL(request.url);
  const asked = url.searchParams.get("kind");
  const editId = recordId(url.searchParams.get("edit"));
  const editing = g.events.find((e) => e.id === editId);
  const kind: EntryKind = editing && isEntryKind(editing.kind) ? editing.kind : isEntryKind(asked) ? asked : "job";
  const show = url.searchParams.get("show") ?? "";
  const shown = Math.max(PAGE, recordId(url.searchParams.get("upto")) ?? PAGE);
  const correctedBy = new Map<number, number>();
  for (const e of g.history) if (e.corrects !== undefined) correctedBy.set(e.corrects, (correctedBy.get(e.corrects) ?? 0) + 1);
  const filtered = [...g.events]
    .reverse()
    .filter((e) => show === "" || e.kind === show || (show === "optics" && (e.kind === "grade" || e.kind === "service")));
  return {
    slug: g.machine.slug,
    kind,
    baseline: url.searchParams.get("baseline") === "1",
    show,
    editing:
      editing && isEntryKind(editing.kind)
        ? { id: editing.id, typed: typedFrom(editing), corrections: correctedBy.get(editing.id) ?? 0 }
        : undefined,
    chart: show === "ladder" || (show === "" && kind === "ladder") ? powerSeries(g, 0) : undefined,
    options: entryOptions(g),
    lines: filtered.slice(0, shown).map((e) => ({
      id: e.id,
      day: shortDay(e.atMs),
      year: dayjs(e.atMs).year(),
      kind: e.kind,
      ...describeEvent(e, g),
      corrected: correctedBy.get(e.id) ?? 0,
      editable: isEntryKind(e.kind),
      roundId: e.roundId,
      photos: e.kind === "grade" || e.kind === "service" ? (e.payload.photos ?? []) : [],
    })),
    voided: g.history.filter((e) => e.voids).length,
    more: filtered.length > shown ? shown + PAGE : undefined,
    total: g.events.length,
    today: dayjs(g.nowMs).format("YYYY-MM-DD HH:mm"),
    said: url.searchParams.get("saved"),
    key: context.freshKey(),
  };
}

/** When it happened: now unless the form says otherwise; never in the future. */
function whenOf(reader: FormReader, nowMs: number): number | undefined {
  const text = reader.text("at");
  if (text === undefined) return nowMs;
  const when = dayjs(text);
  const [day] = text.split(/[ T]/);
  // A day the calendar does not have would silently become another one.
  if (!/^\d{4}-\d{2}-\d{2}([ T]\d{2}:\d{2})?$/.test(text) || !when.isValid() || when.format("YYYY-MM-DD") !== day) {
    reader.errors.at = "Give the day as 2026-11-24, with the time as 14:30 if you know it.";
    return undefined;
  }
  if (when.year() < EARLIEST_YEAR) {
    reader.errors.at = `No record is older than ${EARLIEST_YEAR}. Look at the year.`;
    return undefined;
  }
  // The form shows whole minutes; "now" must not become the past by rounding.
  if (Math.abs(nowMs - when.valueOf()) < 60_000) return nowMs;
  if (when.valueOf() > nowMs) {
    reader.errors.at = "That is in the future. Give today or an earlier day.";
    return undefined;
  }
  return when.valueOf();
}

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const g = await gather(context, params.machine);
  const kind = reader.text("kind");
  const corrects = recordId(reader.text("corrects"));
  const target = corrects === undefined ? undefined : g.events.find((e) => e.id === corrects);
  if (reader.text("corrects") !== undefined && !target)
    return data({ ...trouble(reader, { "": "That record is no longer in the log." }), kind: undefined }, { status: 400 });

  const sent = sentAs(`log ${g.machine.id}`, reader);
  const keep = async <T,>(event: Omit<NewEvent, "requestKey">, kept: T) => {
    const row = { ...event, requestKey: rowKey(sent) };
    const known = Number(reader.text("corrections"));
    try {
      await once(context.store, sent, g.nowMs, (tx) =>
        target ? appendCorrection(tx, g.machine.id, row, known, g.nowMs) : appendEvents(tx, g.machine.id, [row], g.nowMs),
      );
      return kept;
    } catch (error) {
      if (!(error instanceof CorrectedMeanwhile) || !target) throw error;
      const { what, text } = describeEvent(target, g);
      const words = `This entry was corrected on another device meanwhile, and reads now: ${what}, ${text}. Nothing was saved; save again to put yours over it.`;
      return data({ ...trouble(reader, { "": words }), kind: undefined, corrections: error.corrections }, { status: 409 });
    }
  };
  if (target && reader.text("intent") === "void") {
    const struck = { kind: target.kind, atMs: target.atMs, payload: target.payload, corrects: target.id, voids: true };
    return keep(struck, redirect(`/${params.machine}/log?saved=void`));
  }
  if (!isEntryKind(kind)) return data({ ...trouble(reader, { "": "This kind of entry is not known." }), kind: undefined }, { status: 400 });
  const atMs = whenOf(reader, g.nowMs);
  const entry = readEntry(kind, reader, g, atMs ?? g.nowMs, corrects);
  if (!entry.ok || atMs === undefined) {
    const errors = entry.ok ? {} : entry.errors;
    return data({ ...trouble(reader, errors), kind, ...(entry.ok || !entry.ask ? {} : { ask: entry.ask }) }, { status: 400 });
  }
  const event = { kind: entry.kind, atMs, payload: entry.payload, corrects, ...(g.openCase ? { caseId: g.openCase.id } : {}) };
  // Quick entries elsewhere stay where they are; the log's own form shows the new line.
  if (reader.text("here") === undefined) return keep(event, { saved: "Saved." });
  const firstBaseline = kind === "ladder" && reader.text("baseline") === "1";
  const next =
    firstBaseline && !corrects ? `/${params.machine}/today` : `/${params.machine}/log?kind=${kind}&saved=${corrects ? "corrected" : "1"}`;
  return keep(event, redirect(next));
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

/** What another device changed is shown in the list as well as in the words. */
export const shouldRevalidate = ({ actionStatus, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs) =>
  actionStatus === 409 || defaultShouldRevalidate;

const SAID: Readonly<Record<string, string>> = {
  "1": "Saved.",
  corrected: "Corrected. The first version stays in the history.",
  void: "Taken out. It stays in the history, struck.",
};

/** An entry that was not saved. */
interface Failed {
  readonly errors: Readonly<Record<string, string>>;
  readonly typed: Readonly<Record<string, string>>;
  readonly kind?: EntryKind | undefined;
  readonly ask?: string | undefined;
  /** How often the entry was corrected by now. */
  readonly corrections?: number | undefined;
}

export default function Log({ loaderData, actionData }: Route.ComponentProps) {
  const { slug, editing } = loaderData;
  const failed: Failed | undefined = actionData && "errors" in actionData ? actionData : undefined;
  const kind = failed?.kind ?? loaderData.kind;
  const errors: Readonly<Record<string, string>> = failed?.errors ?? {};
  const typed: Readonly<Record<string, string>> = failed?.typed ?? editing?.typed ?? {};
  const busy = useNavigation().state !== "idle";
  const showLink = (value: string) => `/${slug}/log?kind=${kind}${value ? `&show=${value}` : ""}`;
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div>
          <h1 className="verdict">{editing ? "Correct this entry." : "What happened?"}</h1>
          {loaderData.said ? (
            <p className="said" role="status" style={{ marginTop: 12 }}>
              {SAID[loaderData.said]}
            </p>
          ) : null}
        </div>
        <section className="stack">
          {editing ? null : (
            <nav className="tabs" aria-label="Kind of entry">
              {ENTRY_KINDS.map((k) => (
                <Link key={k} className="button" to={`/${slug}/log?kind=${k}`} aria-current={k === kind ? "true" : undefined}>
                  {KIND_NAMES[k]}
                </Link>
              ))}
            </nav>
          )}
          <Form
            method="post"
            className="card strong stack"
            key={`${kind}-${editing?.id ?? loaderData.key}-${failed ? "again" : "new"}`}
            noValidate
          >
            <RequestKey value={keyAfter(actionData, loaderData.key)} />
            <input type="hidden" name="kind" value={kind} />
            <input type="hidden" name="here" value="1" />
            {editing ? (
              <>
                <input type="hidden" name="corrects" value={editing.id} />
                <input type="hidden" name="corrections" value={failed?.corrections ?? typed.corrections ?? editing.corrections} />
              </>
            ) : null}
            <FormProblem errors={errors} />
            <EntryForm
              kind={kind}
              options={loaderData.options}
              errors={errors}
              typed={typed}
              ask={failed?.ask}
              baseline={loaderData.baseline && !editing}
            />
            <div className="fields" style={{ gridTemplateColumns: "minmax(190px, 240px) minmax(0, 1fr)" }}>
              <TextField name="at" label="When" defaultValue={typed.at ?? loaderData.today} error={errors.at} />
              {kind === "note" ? <span /> : <TextField name="note" label="Note, if any" defaultValue={typed.note} error={errors.note} />}
            </div>
            <div className="row">
              <button type="submit" className="button primary" disabled={busy}>
                {editing ? "Save the correction" : "Save"}
              </button>
              {editing ? (
                <>
                  <button type="submit" name="intent" value="void" className="button" disabled={busy}>
                    It never happened
                  </button>
                  <Link className="button quiet" to={`/${slug}/log`}>
                    Leave it as it is
                  </Link>
                </>
              ) : null}
            </div>
          </Form>
        </section>
        {loaderData.chart && loaderData.chart.points.length > 1 ? (
          <section>
            <h2 className="card-title" style={{ marginBottom: 8 }}>
              Effective power, all ladders
            </h2>
            <PowerChart series={loaderData.chart} height={220} />
          </section>
        ) : null}
        <section>
          <div className="between" style={{ marginBottom: 8, flexWrap: "wrap" }}>
            <h2 className="card-title">
              The log so far: {loaderData.total} {loaderData.total === 1 ? "entry" : "entries"}
            </h2>
            <nav className="row small" aria-label="Show">
              {[
                ["", "all"] as const,
                ...EVENT_KINDS.filter((k) => k !== "grade" && k !== "service").map(
                  (k) => [k, (KIND_NAMES[k as EntryKind] ?? k).toLowerCase()] as const,
                ),
                ["optics", "looks and service"] as const,
              ].map(([value, label]) => (
                <Link
                  key={value}
                  to={showLink(value)}
                  aria-current={loaderData.show === value ? "true" : undefined}
                  style={loaderData.show === value ? { fontWeight: 700, textDecoration: "none" } : undefined}
                >
                  {label}
                </Link>
              ))}
            </nav>
          </div>
          {loaderData.lines.length === 0 ? <p className="soft">Nothing yet. Hours first: they date everything else.</p> : null}
          <table className="plain">
            <thead className="sr">
              <tr>
                <th scope="col">Day</th>
                <th scope="col">Kind</th>
                <th scope="col">What</th>
                <th scope="col">Change</th>
              </tr>
            </thead>
            <tbody>
              {loaderData.lines.map((line) => (
                <tr key={line.id}>
                  <td className="nowrap soft" title={String(line.year)}>
                    {line.day}
                  </td>
                  <td>
                    <b>{line.what}</b>
                  </td>
                  <td>
                    {line.text}
                    {line.corrected > 0 ? <span className="soft"> · corrected</span> : null}
                    {line.roundId !== undefined ? (
                      <>
                        {" · "}
                        <Link className="soft inline-link" to={`/${slug}/round/${line.roundId}`}>
                          in a round
                        </Link>
                      </>
                    ) : null}
                    {line.photos.length > 0 ? (
                      <div className="photos" style={{ marginTop: 6 }}>
                        {line.photos.map((hash) => (
                          <a key={hash} href={`/photos/${hash}`} target="_blank" rel="noreferrer" className="thumb">
                            <img src={`/photos/${hash}`} alt={line.text} />
                          </a>
                        ))}
                      </div>
                    ) : null}
                  </td>
                  <td className="right">
                    {line.editable ? (
                      <Link to={`/${slug}/log?edit=${line.id}`} aria-label={`Correct ${line.what} of ${line.day}`}>
                        correct
                      </Link>
                    ) : null}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {loaderData.more ? (
            <p style={{ marginTop: 14 }}>
              <Link className="button" to={`${showLink(loaderData.show)}&upto=${loaderData.more}`} preventScrollReset>
                Older entries
              </Link>
            </p>
          ) : null}
        </section>
      </main>
    </div>
  );
}
