/** Clenor's own way: the next check it asks for, the plan it names, the proof, and on from there. */
import { afterRepair, type TraceAnswer, type TraceBefore, type TraceFinding, type TraceInput, trace } from "#core/trace";
import { type Case, LIMIT_MINUTES } from "./world";

/** What the engine said as the first repair was begun. */
export interface FirstRepair {
  readonly repair: string;
  readonly plan: readonly string[];
  /** Its stated probability to be the repair of what takes most. */
  readonly stated: number;
  readonly asked: number;
  readonly findings: readonly TraceFinding[];
}

export interface EngineRun {
  readonly first: FirstRepair | undefined;
  /** Repairs named again without anything found since they were done: no answer, no part left with film or worse. */
  readonly again: number;
  readonly gaveUp: boolean;
  readonly freeAfterTimed: boolean;
  readonly wattsAsked: number;
}

const MOST_STEPS = 80;

/** `maxFaults` is how many at once the engine weighs. */
export function ownWay(c: Case, maxFaults: 2 | 3 = 2): EngineRun {
  const findings: TraceFinding[] = c.signs();
  const declined = new Set<string>();
  const before: TraceBefore[] = [];
  const askedAt = new Map<string, number>();
  /** Stations that a round left with film or worse: that was found since. */
  let leftBad: ReadonlySet<string> = new Set();
  let first: FirstRepair | undefined;
  let again = 0;
  let wattsAsked = 0;
  let timed = false;
  let freeAfterTimed = false;
  for (let n = 0; n < MOST_STEPS && c.minutes < LIMIT_MINUTES; n++) {
    const answer = trace(c.world.model, { ...inputOf(c, findings, declined, before), maxFaults }, "next");
    const next = answer.nextChecks.find((k) => k.helps);
    if (answer.repair === null && next) {
      if (next.minutes === 0 && timed && !first) freeAfterTimed = true;
      if (next.minutes > 0) timed = true;
      if (next.check.startsWith("power@") && !c.hasMeter) wattsAsked += 1;
      const found = c.ask(next.check);
      if (!found) {
        declined.add(next.check);
        continue;
      }
      findings.push(found);
      const { tries } = c.check(next.check);
      if (!tries || !c.brings(found)) continue;
      // That it cuts now is known when it is called mended.
      const tried = trace(c.world.model, { ...inputOf(c, findings, declined, before), maxFaults }, "next");
      const stated = tried.repairs.find((r) => r.id === tries.repair)?.probability ?? 0;
      first ??= { repair: tries.repair, plan: [tries.repair], stated, asked: c.asked, findings: [...findings] };
      return { first, again, gaveUp: false, freeAfterTimed, wattsAsked };
    }
    const plan = answer.plan;
    // Nothing more speaks for a fault than for none: the proof is cut once more.
    if (c.rounds.length > 0 && answer.nothingWrong > statedOf(answer)) {
      const proof = c.prove();
      if (proof.holds) return { first, again, gaveUp: false, freeAfterTimed, wattsAsked };
      findings.push(proof.cut);
      continue;
    }
    if (plan.length === 0) break;
    first ??= { repair: plan[0] as string, plan, stated: statedOf(answer), asked: c.asked, findings: [...findings] };
    if (plan.some((r) => askedAt.get(r) === c.asked && !leftBad.has(c.repair(r).opens ?? ""))) again += 1;
    const { usage } = inputOf(c, findings, declined, before);
    const proof = c.round(plan, true, findings);
    for (const id of proof.done) askedAt.set(id, c.asked);
    if (proof.holds) return { first, again, gaveUp: false, freeAfterTimed, wattsAsked };
    leftBad = c.stationsGraded(proof.asLeft, /film|spots|damaged/);
    const left = afterRepair(c.world.model, findings, proof.done);
    const seen = proof.asFound.filter((f) => !left.before.some((x) => x.check === f.check));
    before.push({ repairs: proof.done, findings: [...left.before, ...seen], usage });
    findings.splice(0, findings.length, ...left.still, ...proof.asLeft, proof.cut);
  }
  c.gaveUp = true;
  return { first, again, gaveUp: true, freeAfterTimed, wattsAsked };
}

const statedOf = ({ repairs, plan }: TraceAnswer): number => repairs.find((r) => r.id === plan[0])?.probability ?? 0;

function inputOf(c: Case, findings: readonly TraceFinding[], declined: ReadonlySet<string>, before: readonly TraceBefore[]): TraceInput {
  const { usage } = c.machine;
  const mended = before.flatMap((b) => b.repairs);
  const opened = c.world.model.faults.filter((f) => mended.includes(f.repair)).map((f) => f.station);
  return {
    usage: {
      tubeHours: usage.tubeHours,
      ratedTubeHours: usage.ratedTubeHours,
      smokeDoseSinceClean: usage.dose,
      seatsOpened: [...usage.seatsOpened, ...[...new Set(opened)].map((station) => ({ station, daysAgo: 0 }))],
      daysSinceCoolantChange: usage.daysSinceCoolantChange,
    },
    baseline: { tubeCurrentMa: 22, coolantFlowLpm: 2, setPercent: 100, ...(c.hasMeter ? { powerW: c.world.watts } : {}) },
    findings,
    opened: c.opened,
    spares: c.spares,
    declined: [...declined],
    symptom: "power",
    mended,
    before,
  };
}
