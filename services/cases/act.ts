/** What an owner does in an open case by a posted form: answers a check, takes an answer back, closes the case by hand. */
import { isPowerCheck } from "#core/machine";
import type { CheckSpec } from "#core/trace";
import {
  addFinding,
  type CaseClosing,
  closeCase,
  listFindings,
  openCasesOf,
  reopenCase,
  restoreFinding,
  type TraceCase,
  withdrawFinding,
} from "#store/cases";
import type { FieldErrors } from "#store/check";
import { atOnce, type Store } from "#store/database";
import { appendEvents } from "#store/events";
import { once, rowKey } from "#store/sent";
import { readSetting, writeSettings } from "#store/settings";
import type { Services } from "../context";
import { type FormReader, recordId, sentAs } from "../forms/fields";
import { gather } from "../machine/gather";
import type { Gathered } from "../machine/gathered";
import { declinedSetting, unknownSetting } from "../machine/settingNames";
import { betweenHere } from "../units";
import { fromShelf, takeSpares } from "../workshop/spares";
import { answerView } from "./answerView";
import { caseOf } from "./caseOf";
import { answerPanels, askPanelsAgain, PANELS_CLOSED } from "./panels";
import { checkText, faultName, signsOf } from "./words";

/** A finding as a form gives it. */
type Answer = Parameters<typeof addFinding>[2];

/** Watts a meter of an owner can show. */
const POWER_RANGE_W = [0.1, 2000] as const;

/** Nothing is done in a case that is closed. Throws NotHere. */
export async function actByForm(
  services: Services,
  slug: string,
  caseId: number | undefined,
  reader: FormReader,
): Promise<{ readonly done: true } | { readonly errors: FieldErrors }> {
  const { store } = services;
  const g = await gather(services, slug);
  const found = await caseOf(services, g, caseId);
  const intent = reader.text("intent");
  if (found.closedMs !== undefined && intent !== undefined && intent !== "also") {
    if (intent === "reopen") await reopen(services, g, found);
    else if (intent !== "tried" && intent !== "close") return CLOSED;
    return { done: true };
  }
  const closeAs = (as: CaseClosing, tx: Store = store) => closeCase(tx, g.machine.id, found.id, as, g.nowMs);
  const finding = recordId(reader.text("finding")) ?? 0;
  switch (intent) {
    case "undo":
      await withdrawFinding(store, found.id, finding, g.nowMs);
      return { done: true };
    case "redo":
      await restoreFinding(store, found.id, finding);
      return { done: true };
    case "decline":
      await declineCheck(services, g, found.id, reader.text("check"), true);
      return { done: true };
    case "ask-again":
      // Whether panels may be opened is asked again in the case that needs it.
      if (reader.text("check") === PANELS_CLOSED) {
        await askPanelsAgain(services, g);
        return { done: true };
      }
      await declineCheck(services, g, found.id, reader.text("check"), false);
      return { done: true };
    case "panels": {
      const errors = await answerPanels(services, g, reader.text("panels") === "mine");
      return errors ? { errors } : { done: true };
    }
    case "also": {
      const sign = signsOf(g.trade).find((s) => s.id === reader.text("sign"));
      if (!sign) return { errors: { sign: "Choose what you noticed." } };
      const known = new Set(g.trade.model.checks.map((c) => c.id));
      const sent = sentAs(`case ${found.id}`, reader);
      return whileOpen(() =>
        once(store, sent, g.nowMs, async (tx) => {
          await stillOpen(tx, g, found);
          for (const [i, f] of sign.findings.filter((f) => known.has(f.check)).entries())
            await addFinding(tx, found.id, f, `${rowKey(sent)}:${i}`, g.nowMs);
        }),
      );
    }
    case "tried": {
      const report = await answerView(services, g, found, await listFindings(store, found.id));
      const { tried } = report;
      if (!tried) return { errors: { "": "Nothing that was tried has brought it back." } };
      const { fitted } = tried;
      await atOnce(store, async (tx) => {
        const isClosed = await closeAs({ repair: tried.name, faults: tried.faults, proof: tried.proof, report }, tx);
        if (isClosed && fitted !== undefined) await recordFitted(tx, g, found, fitted);
      });
      return { done: true };
    }
    case "close": {
      const why = reader.text("why");
      if (!why) return { errors: { why: "Say in a few words how it ended." } };
      const report = await answerView(services, g, found, await listFindings(store, found.id));
      await closeAs({ repair: null, faults: [], proof: `closed by hand: ${why}`, report });
      return { done: true };
    }
  }
  const read = readAnswer(g, reader);
  if ("errors" in read) return read;
  const sent = sentAs(`case ${found.id}`, reader);
  return whileOpen(() =>
    once(store, sent, g.nowMs, async (tx) => {
      await stillOpen(tx, g, found);
      await addFinding(tx, found.id, read.answer, rowKey(sent), g.nowMs);
    }),
  );
}

/** What is told an answer that came too late: it is not in the case, and nobody says that it is. */
const CLOSED = {
  errors: { "": "This case was closed meanwhile, perhaps on another device. Your answer was not saved. Open the case again, then answer." },
} as const;

class ClosedMeanwhile extends Error {}

/** Throws ClosedMeanwhile where a case is not open any more at the moment of writing. */
async function stillOpen(tx: Store, g: Gathered, { id }: TraceCase): Promise<void> {
  if (!(await openCasesOf(tx, g.machine.id)).some((c) => c.id === id)) throw new ClosedMeanwhile();
}

async function whileOpen(write: () => Promise<void>): Promise<{ readonly done: true } | typeof CLOSED> {
  try {
    await write();
    return { done: true };
  } catch (error) {
    if (error instanceof ClosedMeanwhile) return CLOSED;
    throw error;
  }
}

/** The spare that was tried and stays in: the log has it, and the shelf has one less. */
async function recordFitted(tx: Store, g: Gathered, closed: TraceCase, fitted: string): Promise<void> {
  const payload = { station: fitted, what: "replaced" as const, note: `tried in case ${closed.number}, and it cut through` };
  const events = await fromShelf(tx, g.machine.id, [
    { kind: "service" as const, atMs: g.nowMs, payload, requestKey: `tried/${closed.id}/${g.nowMs}`, caseId: closed.id },
  ]);
  await appendEvents(tx, g.machine.id, events, g.nowMs);
  await takeSpares(tx, g.machine.id, events);
}

/** It came back: the case goes on, and the log says what it had been closed as. */
async function reopen(services: Services, g: Gathered, closed: TraceCase): Promise<void> {
  await atOnce(services.store, async (tx) => {
    const was = await reopenCase(tx, g.machine.id, closed.id);
    if (!was) return;
    const faults = was.faults.map((f) => faultName(g.trade, f)).join(", ") || "open-ended";
    const note = `Case ${closed.number} opened again. It had been closed as: ${faults}; proof: ${was.proof || "none"}.`.slice(0, 500);
    await appendEvents(
      tx,
      g.machine.id,
      [{ kind: "note", atMs: g.nowMs, payload: { note }, requestKey: `reopen/${closed.id}/${closed.closedMs}`, caseId: closed.id }],
      g.nowMs,
    );
  });
}

/**
 * Keeps with the machine that a check cannot be made on it, or can again. Without a meter there is none after any station. A question
 * that takes no time is one of memory: not knowing stays with its case.
 */
async function declineCheck(
  services: Services,
  g: Gathered,
  caseId: number,
  check: string | undefined,
  isDeclined: boolean,
): Promise<void> {
  const alike = (id: string) => id === check || (check !== undefined && isPowerCheck(check) && isPowerCheck(id));
  const meant = g.trade.model.checks.filter((c) => alike(c.id));
  const ids = meant.map((c) => c.id);
  const setting = meant.every((c) => c.minutes === 0) ? unknownSetting(caseId) : declinedSetting(g.machine.id);
  await atOnce(services.store, async (tx) => {
    const before = (await readSetting<string[]>(tx, setting)) ?? [];
    const kept = before.filter((id) => !ids.includes(id));
    await writeSettings(tx, { [setting]: isDeclined ? [...kept, ...ids] : kept });
  });
}

function readAnswer(g: Gathered, reader: FormReader): { readonly answer: Answer } | { readonly errors: FieldErrors } {
  const spec = g.trade.model.checks.find((c) => c.id === reader.text("check"));
  if (!spec) return { errors: { "": "This check does not exist on this machine." } };
  const outcome = reader.text("outcome");
  if (outcome === undefined || outcome === "value") return readValue(g, spec, reader);
  if (!spec.outcomes.includes(outcome)) return { errors: { "": "This answer does not belong to the check." } };
  return { answer: { check: spec.id, outcome } };
}

function readValue(g: Gathered, spec: CheckSpec, reader: FormReader): { readonly answer: Answer } | { readonly errors: FieldErrors } {
  const unit = checkText(g.trade, spec.id).value;
  const value = reader.number("value", unit?.unit ?? "", unit?.example ?? "1");
  const isPower = spec.measures?.kind === "power";
  const setPercent = isPower ? reader.optionalNumber("setPercent", "%", "100") : undefined;
  const [min, max] = isPower ? POWER_RANGE_W : [spec.value?.min ?? 0, spec.value?.max ?? 1000];
  if (value !== undefined && (value < min || value > max))
    reader.errors.value = `Only ${betweenHere(min, max, unit?.unit ?? "")} is possible here.`;
  if (setPercent !== undefined && (setPercent <= 0 || setPercent > 100)) reader.errors.setPercent = "Between 1 and 100 %.";
  if (value === undefined || Object.keys(reader.errors).length > 0) return { errors: reader.errors };
  return { answer: { check: spec.id, value, setPercent } };
}
