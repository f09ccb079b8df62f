/**
 * The same posterior by the plainest means: every set with its own dense covariance matrix, eliminated anew, no tables and no
 * shared work. Slow and short: the bench measures the engine against it, and a test checks the engine by it.
 */
import { clipLogLoss, offsetForLogLoss } from "#core/beam";
import { type CheckSpec, type FaultSpec, type TraceModel, type TraceUsage, usageFactor } from "#core/trace";

/** Watts as ln ratio to the baseline after a place on the path, ln of what a look grades at one, and outcomes of qualitative checks. */
export interface PlainFindings {
  readonly readings: readonly { readonly at: number; readonly y: number; readonly sd: number; readonly isLook?: boolean }[];
  readonly outcomes: readonly { readonly check: string; readonly outcome: string }[];
}

interface Member {
  readonly fault: FaultSpec;
  readonly severity: 0 | 1;
}

const NONE = 0.03;
const SOUND = 0.5;
/** Two causes of lost power at once are so much rarer than their rates by themselves would have it, less so where one is dirt. */
const TOGETHER = 0.2;
const WITH_DIRT = 0.4;
const SLIP = 0.01;
const METER = 0.03;
const HEADROOM = 0.06;

/** Log density of N(mean, cov) at y by elimination. */
function logGaussian(y: number[], mean: number[], cov: number[][]): number {
  const n = y.length;
  const a = cov.map((row, i) => [...row, (y[i] as number) - (mean[i] as number)]);
  let logDet = 0;
  for (let i = 0; i < n; i++) {
    const pivot = (a[i] as number[])[i] as number;
    logDet += Math.log(pivot);
    for (let k = i + 1; k < n; k++) {
      const factor = ((a[k] as number[])[i] as number) / pivot;
      for (let j = i; j <= n; j++) (a[k] as number[])[j] = ((a[k] as number[])[j] as number) - factor * ((a[i] as number[])[j] as number);
    }
  }
  // L D L^T: the squared distance is the sum of eliminated residuals over their pivots.
  let quad = 0;
  for (let i = 0; i < n; i++) quad += ((a[i] as number[])[n] as number) ** 2 / ((a[i] as number[])[i] as number);
  return -0.5 * (quad + logDet);
}

function outcomeProbability(check: CheckSpec, outcome: string, set: readonly Member[]): number {
  const o = check.outcomes.indexOf(outcome);
  const causes = set.flatMap((m) =>
    (m.fault.effects[check.id] ?? []).flatMap((e) =>
      e.kind === "outcomes" ? [{ p: m.severity ? e.heavy : e.light, w: Math.max(0.02, m.fault.loss[m.severity] * m.fault.cutGain) }] : [],
    ),
  );
  let p: number;
  if (check.kind === "ordinal") {
    const upTo = (j: number) => {
      if (j < 0) return 0;
      if (j === check.outcomes.length - 1) return 1;
      const sum = (v: readonly number[]) => v.slice(0, j + 1).reduce((s, x) => s + x, 0);
      return causes.reduce((product, c) => product * sum(c.p), sum(check.leak));
    };
    p = upTo(o) - upTo(o - 1);
    if (check.tries) {
      const still = set.flatMap((m) =>
        (m.fault.effects[check.id] ?? []).map((e) => (e.kind === "holds" ? (m.severity ? e.heavy : e.light) : 1)),
      );
      const drops = (1 - upTo(0)) * still.reduce((product, d) => product * d, 1);
      p = o === 1 ? drops : 1 - drops;
    }
  } else {
    const total = causes.reduce((s, c) => s + c.w, check.leakWeight);
    p = causes.reduce((s, c) => s + c.w * (c.p[o] as number), check.leakWeight * (check.leak[o] as number)) / total;
  }
  return (1 - SLIP) * p + SLIP / check.outcomes.length;
}

/** Marginal probability of every fault, of nothing wrong and of none of these, over sets of up to two faults. */
export function plainPosterior(
  model: TraceModel,
  usage: TraceUsage,
  findings: PlainFindings,
): { faults: Map<string, number>; none: number; nothingWrong: number } {
  const place = (station: string) => {
    const at = model.stations.findIndex((s) => s.id === station);
    return model.stations[at]?.role === "tube" ? model.stations.findIndex((s) => s.role === "window") : at;
  };
  const background = model.stations.map((s) => {
    if (s.role === "tube") return { mean: 0.015, variance: 0.02 ** 2 };
    const b = model.background.find((x) => x.station === s.id);
    if (!b) return { mean: 0, variance: 0 };
    const dose = usage.smokeDoseSinceClean?.[s.id] ?? usage.hoursSinceClean?.[s.id] ?? b.intervalPlyHours / 2;
    const mean = b.lossAtInterval * Math.min(1, dose / b.intervalPlyHours);
    return { mean, variance: (0.5 * mean + 0.004) ** 2 };
  });
  const { readings } = findings;
  type Reading = (typeof readings)[number];
  const placesOf = (r: Reading) => background.map((b, at) => ({ ...b, at })).filter((b) => (r.isLook ? b.at === r.at : b.at <= r.at));
  const base = readings.map((r) => -placesOf(r).reduce((s, b) => s + b.mean, 0));
  const y = readings.map((r, i) => Math.min(r.y, (base[i] as number) + HEADROOM));
  const lossPlace = (m: Member) => (m.fault.lossAt === undefined ? -1 : place(m.fault.lossAt));
  const feels = (m: Member, r: Reading) =>
    Number(r.isLook ? m.fault.usage?.kind === "dose" && lossPlace(m) === r.at : lossPlace(m) >= 0 && lossPlace(m) <= r.at);

  /** What the readings say together of a set, without what the looks among them say of it alone: that is in their tables. */
  const density = (set: readonly Member[]): number =>
    readings.reduce((rest, _, i) => (readings[i]?.isLook ? rest / densityOf(set, [i]) : rest), densityOf(set, [...readings.keys()]));
  const densityOf = (set: readonly Member[], which: readonly number[]): number => {
    if (which.length === 0) return 1;
    let extra = 0;
    let extraAt = 0;
    const [p, q] = set;
    if (p && q && p.fault.movesBeam && q.fault.movesBeam) {
      const radius = Math.min(
        ...[p, q].map((m) => {
          const s = model.stations[lossPlace(m)];
          return s && s.role !== "nozzle" ? s.apertureMm / 2 : 9;
        }),
      );
      const [lp, lq] = [p.fault.loss[p.severity], q.fault.loss[q.severity]];
      const offset = (l: number) => offsetForLogLoss(radius, model.beamRadiusMm, l);
      extra = clipLogLoss(radius, model.beamRadiusMm, Math.hypot(offset(lp), offset(lq))) - lp - lq;
      extraAt = Math.max(lossPlace(p), lossPlace(q));
    }
    const some = which.map((i) => readings[i] as Reading);
    const mean = some.map(
      (r, i) =>
        (base[which[i] as number] as number) -
        set.reduce((s, m) => s + feels(m, r) * m.fault.loss[m.severity], 0) -
        Number(!r.isLook && extraAt <= r.at) * extra,
    );
    const cov = some.map((r, i) =>
      some.map((t, k) => {
        const shared = placesOf(r).filter((b) => placesOf(t).some((o) => o.at === b.at));
        return (
          shared.reduce((s, b) => s + b.variance, 0) +
          (r.isLook || t.isLook ? 0 : METER ** 2) +
          (i === k ? r.sd ** 2 : 0) +
          set.reduce((s, m) => s + feels(m, r) * feels(m, t) * Math.max(1e-8, m.fault.lossSd[m.severity] ** 2), 0)
        );
      }),
    );
    return Math.exp(
      logGaussian(
        which.map((i) => y[i] as number),
        mean,
        cov,
      ),
    );
  };

  const members: Member[] = model.faults.flatMap((fault) => [
    { fault, severity: 0 },
    { fault, severity: 1 },
  ]);
  const sets: Member[][] = [[], ...members.map((m) => [m])];
  for (const [i, a] of members.entries()) for (const b of members.slice(i + 1)) if (b.fault !== a.fault) sets.push([a, b]);
  const odds = (m: Member) => {
    const share = m.severity ? m.fault.heavyShare : 1 - m.fault.heavyShare;
    return (m.fault.baseRate / (1 - m.fault.baseRate)) * usageFactor(m.fault, usage) * share;
  };
  const together = (set: readonly Member[]) => {
    const causes = set.filter((m) => (m.fault.symptoms.power ?? 0) > 0);
    if (causes.length < 2) return 1;
    return causes.some((m) => m.fault.usage?.kind === "dose") ? WITH_DIRT : TOGETHER;
  };
  const prior = sets.map((set) => set.reduce((product, m) => product * odds(m), together(set)));
  const priorTotal = prior.reduce((s, p) => s + p, 0);
  const densities = sets.map(density);
  const checks = findings.outcomes.map((f) => ({ check: model.checks.find((c) => c.id === f.check) as CheckSpec, outcome: f.outcome }));
  const tables = checks.map((c) => sets.map((set) => outcomeProbability(c.check, c.outcome, set)));
  const average = (values: number[]) => values.reduce((s, v, i) => s + (v * (prior[i] as number)) / priorTotal, 0);
  const weights = sets.map(
    (_, i) =>
      (((1 - NONE) * (prior[i] as number)) / priorTotal) *
      (densities[i] as number) *
      tables.reduce((product, t) => product * (t[i] as number), 1),
  );
  // What stands in no list shows in nothing else, or in anything; the first set is the empty one.
  const sound = tables.reduce((product, t) => product * (t[0] as number), 1);
  const marginal = tables.reduce((product, t) => product * average(t), 1);
  const none = NONE * average(densities) * (SOUND * sound + (1 - SOUND) * marginal);
  const total = weights.reduce((s, w) => s + w, none);
  const faults = new Map(model.faults.map((f) => [f.id, 0]));
  for (const [i, set] of sets.entries())
    for (const m of set) faults.set(m.fault.id, (faults.get(m.fault.id) ?? 0) + (weights[i] as number) / total);
  return { faults, none: none / total, nothingWrong: (weights[0] as number) / total };
}
