/**
 * Repairs of a case as events in time. What was found before a repair speaks of the machine as it was then: of a fault that is gone since,
 * and not of what was put back wrong. To the engine these are faults of their own, each at work in its own span of the case, so that
 * everything that was ever found speaks, each finding of its own time.
 */
import { isMendedBy } from "../model/mending";
import type { CheckSpec, FaultSpec, TraceBefore, TraceFinding, TraceInput, TraceModel } from "../model/types";
import { stillSpeaking } from "./repaired";

/** A repair that fits takes its fault away with this probability. */
const MENDS = 0.95;
/** By how much the odds of a part put in wrong rise where its seat was opened: M6, on the day. */
const SEAT_OPENED = 5;

/** A case whose repairs are in its model: faults and checks of before stand after those of the machine itself. */
export interface Told {
  readonly model: TraceModel;
  readonly findings: readonly TraceFinding[];
  readonly before: readonly TraceBefore[];
}

/** A check as it was answered at a time of the case: there is one time before each of its repairs, and the last, now. */
const idAt = (check: string, time: number) => `${check} before ${time + 1}`;

/** The last model made of each machine's: a case asks it again for every answer. */
const made = new WeakMap<TraceModel, { readonly key: string; readonly model: TraceModel }>();

/** The model and the findings of a case in which repairs were done; those of one without are as they are. */
export function withPast(plain: TraceModel, { before: given, mended = [], findings = [] }: TraceInput): Told {
  const named = new Set(given?.flatMap((b) => b.repairs));
  const unnamed = mended.filter((r) => !named.has(r));
  const before: readonly TraceBefore[] = unnamed.length === 0 ? (given ?? []) : [...(given ?? []), { findings: [], repairs: unnamed }];
  if (before.length === 0) return { model: plain, findings, before };
  const key = JSON.stringify(before.map((b) => [b.repairs, [...new Set(b.findings.map((f) => f.check))]]));
  const known = made.get(plain);
  const model = known?.key === key ? known.model : modelOf(plain, before);
  made.set(plain, { key, model });
  return {
    model,
    findings: [...before.flatMap((b, t) => b.findings.map((f) => ({ ...f, check: idAt(f.check, t) }))), ...findings],
    before,
  };
}

function modelOf(plain: TraceModel, before: readonly TraceBefore[]): TraceModel {
  const asked = before.map((b) => [...new Set(b.findings.map((f) => f.check))]);
  const known = new Set(plain.checks.map((c) => c.id));
  for (const id of asked.flat()) if (!known.has(id)) throw new RangeError(`check "${id}" does not exist on this machine`);
  const copies = asked.flatMap((ids, time) =>
    plain.checks.filter((c) => ids.includes(c.id)).map((c): CheckSpec => ({ ...c, id: idAt(c.id, time), past: { id: c.id, time } })),
  );
  /** Its effects on what was asked at the times from `from` until `until`. */
  const effectsAt = (fault: FaultSpec, from: number, until: number) =>
    Object.fromEntries(
      asked.flatMap((ids, time) =>
        time < from || time > until
          ? []
          : ids.flatMap((id) => (fault.effects[id] === undefined ? [] : [[idAt(id, time), fault.effects[id]]])),
      ),
    );
  // How it began is told of what there was then, whenever it is told.
  const history = plain.checks.filter((c) => c.speaksOf === "history").map((c) => c.id);
  const historyOf = (fault: FaultSpec) => Object.fromEntries(Object.entries(fault.effects).filter(([id]) => history.includes(id)));
  const effectsNow = (fault: FaultSpec) => Object.fromEntries(Object.entries(fault.effects).filter(([id]) => !history.includes(id)));
  const now = before.length;
  const opened = before.map((b) => new Set(plain.faults.filter((f) => b.repairs.includes(f.repair)).map((f) => f.station)));
  /** A seat that was opened again was put back again: what was wrong with it since the time before is nobody's guess any more. */
  const lastOpened = (station: string) => opened.findLastIndex((stations) => stations.has(station));

  const faults: FaultSpec[] = [];
  const others: FaultSpec[] = [];
  plain.faults.forEach((fault, of) => {
    let left = 1;
    before.forEach(({ repairs }, t) => {
      if (isMendedBy(fault, repairs)) {
        others.push({
          ...fault,
          id: `${fault.id} until ${t + 1}`,
          span: { of, from: 0, until: t },
          oddsFactor: left * MENDS,
          // It is nobody's trouble now.
          symptoms: {},
          movesBeam: false,
          effects: { ...effectsAt(fault, 0, t), ...historyOf(fault) },
        });
        left *= 1 - MENDS;
      }
      // Who has just put a thing right does not put that very thing wrong.
      if (fault.usage?.kind === "seat" && lastOpened(fault.usage.station) === t && !repairs.includes(fault.repair)) {
        others.push({
          ...fault,
          id: `${fault.id} since ${t + 1}`,
          span: { of, from: t + 1, until: now },
          usage: undefined,
          oddsFactor: SEAT_OPENED,
          effects: { ...effectsNow(fault), ...effectsAt(fault, t + 1, now) },
        });
      }
    });
    faults.push({ ...fault, oddsFactor: left, effects: { ...fault.effects, ...effectsAt(fault, 0, now) } });
  });
  return { ...plain, faults: [...faults, ...others], checks: [...plain.checks, ...copies] };
}

/** What a repair in the course of a case leaves: the findings that still speak of the machine as it is, and the others with it. */
export function afterRepair<F extends TraceFinding>(
  model: TraceModel,
  findings: readonly F[],
  repairs: readonly string[],
): { readonly still: F[]; readonly before: F[] } {
  const still = stillSpeaking(model, findings, repairs);
  return { still, before: findings.filter((f) => !still.includes(f)) };
}
