import { clipLogLoss, nominalLogTransmission, offsetForLogLoss } from "#core/beam";
import { backgroundLosses } from "./prior";
import type { TraceBaseline, TraceModel, TraceUsage } from "./types";

/** One reading of the lost light: ln of power (or of effective power) against the baseline. */
export interface LossReading {
  readonly check: string;
  readonly kind: "power" | "ladder";
  /** Index on the path of the station it was taken after; the ladder counts as after the last one. */
  readonly at: number;
  readonly y: number;
  readonly sd: number;
  /** True when there is no baseline for it and only steps between readings can be told. */
  readonly floating: boolean;
}

/** Error that all readings of one meter share, in ln power. */
const METER_SHARED_SD = 0.03;
/** How badly the tube's own power is known when no baseline was ever taken. */
const NO_BASELINE_SD = 0.5;
/** A reading above what a clean machine could give by more than this (ln) says no more than "as good as it gets". */
const HEADROOM = 0.06;

/** Which path index a power reading belongs to: `power@tube` and `power@window` are one place, outside the exit window. */
export function placeOf(model: TraceModel, station: string): number {
  const at = model.stations.findIndex((s) => s.id === station);
  const window = model.stations.findIndex((s) => s.role === "window");
  return model.stations[at]?.role === "tube" && window >= 0 ? window : at;
}

/**
 * Ln of a power reading against the baseline after the same station. Watts are scaled to full set power first. A station
 * with no baseline of its own borrows the nearest one through the nominal transmissions; with none at all the reading floats.
 */
export function logAgainstBaseline(
  model: TraceModel,
  station: string,
  valueW: number,
  setPercent: number | undefined,
  baseline: TraceBaseline | undefined,
): { y: number; floating: boolean } {
  const baselineSet = baseline?.setPercent ?? 100;
  const full = Math.log(valueW) + Math.log(100 / (setPercent ?? baselineSet));
  const at = placeOf(model, station);
  let best: { distance: number; lnW: number } | undefined;
  for (const [id, watts] of Object.entries(baseline?.powerW ?? {})) {
    const from = placeOf(model, id);
    const distance = Math.abs(from - at);
    if (best && best.distance <= distance) continue;
    const path = model.stations;
    const step = nominalLogTransmission(path, (path[from] as (typeof path)[0]).id, (path[at] as (typeof path)[0]).id);
    best = { distance, lnW: Math.log(watts) + Math.log(100 / baselineSet) + step };
  }
  if (best) return { y: full - best.lnW, floating: false };
  const tube = (model.stations[0] as (typeof model.stations)[0]).id;
  return { y: full - nominalLogTransmission(model.stations, tube, model.stations[at]?.id as string), floating: true };
}

/** What one set of faults says of the lost light, given the readings. Reused between calls: copy what must last. */
export interface SetPosterior {
  logLikelihood: number;
  /** Posterior mean loss of the first, second and third fault state. */
  readonly mean: Float64Array;
  /** Their covariance, 3 x 3 row-wise. */
  readonly cov: Float64Array;
  /** Extra loss (ln) because several faults push the beam off axis together, and where it shows. */
  extra: number;
  extraAt: number;
}

/** Predictive law of a further reading under a set. */
export interface Predictive {
  readonly baseMean: number;
  readonly baseVariance: number;
  /** Effect of one unit of each state's loss on the reading, after what the other readings already tell. */
  readonly gain: Float64Array;
  /** The same for an extra loss appearing at each path index. */
  readonly extraGain: Float64Array;
}

export interface LossModel {
  readonly states: number;
  readonly priorMean: Float64Array;
  readonly priorVariance: Float64Array;
  readonly evaluate: (a: number, b: number, c: number, out: SetPosterior) => void;
  readonly predict: (kind: "power" | "ladder", at: number) => Predictive;
  /** Posterior mean and variance of the background loss at a path index under a set just evaluated into `post`. */
  readonly background: (at: number, a: number, b: number, c: number, post: SetPosterior) => { mean: number; variance: number };
  readonly newPosterior: () => SetPosterior;
}

/** Inverse of a small symmetric positive definite matrix (row-wise) by Gauss-Jordan; n is the number of readings. */
function invert(matrix: Float64Array, n: number): Float64Array {
  const a = matrix.slice();
  const inv = new Float64Array(n * n);
  for (let i = 0; i < n; i++) inv[i * n + i] = 1;
  for (let col = 0; col < n; col++) {
    const pivot = a[col * n + col] as number;
    for (let j = 0; j < n; j++) {
      a[col * n + j] = (a[col * n + j] as number) / pivot;
      inv[col * n + j] = (inv[col * n + j] as number) / pivot;
    }
    for (let row = 0; row < n; row++) {
      if (row === col) continue;
      const factor = a[row * n + col] as number;
      if (factor === 0) continue;
      for (let j = 0; j < n; j++) {
        a[row * n + j] = (a[row * n + j] as number) - factor * (a[col * n + j] as number);
        inv[row * n + j] = (inv[row * n + j] as number) - factor * (inv[col * n + j] as number);
      }
    }
  }
  return inv;
}

/**
 * The joint Gaussian of all loss readings. Set-independent covariance is factored once; a fault state is a direction over
 * the readings with a mean and a variance, so a set costs a few stored dot products and a solve of at most 3 x 3
 * (Woodbury identity and matrix determinant lemma).
 */
export function lossModel(model: TraceModel, usage: TraceUsage, readings: readonly LossReading[]): LossModel {
  const stations = model.stations;
  const places = stations.length;
  const states = model.faults.length * 2;
  const vectors = states + places; // one direction per state, then one per place for the off-axis extra
  const background = backgroundLosses(model, usage);
  const n = readings.length;

  const priorMean = new Float64Array(states);
  const priorVariance = new Float64Array(states);
  const lossAt = new Int16Array(states).fill(-1);
  const cutGain = new Float64Array(states);
  model.faults.forEach((fault, f) => {
    for (const sev of [0, 1] as const) {
      const s = 2 * f + sev;
      priorMean[s] = fault.loss[sev];
      priorVariance[s] = Math.max(1e-8, fault.lossSd[sev] ** 2);
      lossAt[s] = fault.lossAt === undefined ? -1 : placeOf(model, fault.lossAt);
      cutGain[s] = fault.cutGain;
    }
  });

  const seesPlace = (kind: "power" | "ladder", at: number, place: number) => kind === "ladder" || place <= at;
  /** How a reading of this kind at this place falls per unit of loss along direction v. */
  const direction = (kind: "power" | "ladder", at: number, v: number): number => {
    if (v >= states) return seesPlace(kind, at, v - states) ? 1 : 0;
    if (kind === "ladder") return cutGain[v] as number;
    const place = lossAt[v] as number;
    return place >= 0 && place <= at ? 1 : 0;
  };
  const shared = (k1: string, k2: string, floating1: boolean, floating2: boolean): number => {
    if (k1 !== "power" || k2 !== "power") return 0;
    return METER_SHARED_SD ** 2 + (floating1 && floating2 ? NO_BASELINE_SD ** 2 : 0);
  };
  const backgroundCov = (kind1: "power" | "ladder", at1: number, kind2: "power" | "ladder", at2: number): number => {
    let sum = 0;
    for (let j = 0; j < places; j++) {
      if (seesPlace(kind1, at1, j) && seesPlace(kind2, at2, j)) sum += background.variance[j] as number;
    }
    return sum;
  };
  const baseMean = (kind: "power" | "ladder", at: number): number => {
    let sum = 0;
    for (let j = 0; j < places; j++) if (seesPlace(kind, at, j)) sum -= background.mean[j] as number;
    return sum;
  };

  const residual = new Float64Array(n);
  const covariance = new Float64Array(n * n);
  readings.forEach((r, i) => {
    const expected = baseMean(r.kind, r.at);
    residual[i] = (r.floating ? r.y : Math.min(r.y, expected + HEADROOM)) - expected;
    readings.forEach((q, k) => {
      covariance[i * n + k] =
        backgroundCov(r.kind, r.at, q.kind, q.at) + shared(r.kind, q.kind, r.floating, q.floating) + (i === k ? r.sd * r.sd : 0);
    });
  });
  // A floating walk is centred on its own first reading, so that only the steps count.
  if (readings.length > 0 && readings.every((r) => r.floating || r.kind === "ladder")) {
    const start = readings.findIndex((r) => r.floating);
    if (start >= 0) {
      const shift = residual[start] as number;
      readings.forEach((r, i) => {
        if (r.floating) residual[i] = (residual[i] as number) - shift;
      });
    }
  }
  const inverse = invert(covariance, n);

  const a = new Float64Array(vectors * n);
  for (let v = 0; v < vectors; v++) {
    readings.forEach((r, i) => {
      a[v * n + i] = direction(r.kind, r.at, v);
    });
  }
  const wr = new Float64Array(n);
  for (let i = 0; i < n; i++)
    for (let k = 0; k < n; k++) wr[i] = (wr[i] as number) + (inverse[i * n + k] as number) * (residual[k] as number);
  const dot = (x: Float64Array, xOffset: number, y: Float64Array, yOffset: number): number => {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += (x[xOffset + i] as number) * (y[yOffset + i] as number);
    return sum;
  };
  const q0 = dot(wr, 0, residual, 0);
  const wa = new Float64Array(vectors * n);
  for (let v = 0; v < vectors; v++) {
    for (let i = 0; i < n; i++) wa[v * n + i] = dot(inverse, i * n, a, v * n);
  }
  const g = new Float64Array(vectors);
  const gram = new Float64Array(vectors * vectors);
  for (let v = 0; v < vectors; v++) {
    g[v] = dot(a, v * n, wr, 0);
    for (let u = 0; u < vectors; u++) gram[v * vectors + u] = dot(a, v * n, wa, u * n);
  }

  const { extraOf, offAxisAt } = offAxisExtras(model, priorMean, lossAt);

  const newPosterior = (): SetPosterior => ({
    logLikelihood: 0,
    mean: new Float64Array(3),
    cov: new Float64Array(9),
    extra: 0,
    extraAt: 0,
  });

  const evaluate = (s0: number, s1: number, s2: number, out: SetPosterior): void => {
    const { mean, cov } = out;
    mean.fill(0);
    cov.fill(0);
    out.extra = 0;
    if (s0 < 0) {
      out.logLikelihood = -0.5 * q0;
      return;
    }
    if (s1 >= 0) {
      let x = extraOf[s0 * states + s1] as number;
      if (s2 >= 0) x += (extraOf[s0 * states + s2] as number) + (extraOf[s1 * states + s2] as number);
      if (x !== 0) {
        out.extra = x;
        out.extraAt = Math.max(offAxisAt[s0] as number, offAxisAt[s1] as number, s2 < 0 ? 0 : (offAxisAt[s2] as number));
      }
    }
    const x = out.extra;
    const e = states + out.extraAt;
    const m0 = priorMean[s0] as number;
    const d0 = 1 / (priorVariance[s0] as number);
    const ge = x === 0 ? 0 : x * (2 * (g[e] as number) + x * (gram[e * vectors + e] as number));
    if (s1 < 0) {
      const t0 = (g[s0] as number) + m0 * (gram[s0 * vectors + s0] as number);
      const c = 1 / (d0 + (gram[s0 * vectors + s0] as number));
      const quad = q0 + m0 * (2 * (g[s0] as number) + m0 * (gram[s0 * vectors + s0] as number));
      out.logLikelihood = -0.5 * (quad - t0 * t0 * c + Math.log((d0 + (gram[s0 * vectors + s0] as number)) / d0));
      mean[0] = m0 - c * t0;
      cov[0] = c;
      return;
    }
    const m1 = priorMean[s1] as number;
    const d1 = 1 / (priorVariance[s1] as number);
    const g00 = gram[s0 * vectors + s0] as number;
    const g11 = gram[s1 * vectors + s1] as number;
    const g01 = gram[s0 * vectors + s1] as number;
    const xe0 = x === 0 ? 0 : x * (gram[s0 * vectors + e] as number);
    const xe1 = x === 0 ? 0 : x * (gram[s1 * vectors + e] as number);
    if (s2 < 0) {
      const t0 = (g[s0] as number) + m0 * g00 + m1 * g01 + xe0;
      const t1 = (g[s1] as number) + m0 * g01 + m1 * g11 + xe1;
      const quad = q0 + m0 * ((g[s0] as number) + t0 + xe0) + m1 * ((g[s1] as number) + t1 + xe1) + ge;
      const p = d0 + g00;
      const q = d1 + g11;
      const det = p * q - g01 * g01;
      const c00 = q / det;
      const c11 = p / det;
      const c01 = -g01 / det;
      out.logLikelihood = -0.5 * (quad - (c00 * t0 * t0 + 2 * c01 * t0 * t1 + c11 * t1 * t1) + Math.log(det / (d0 * d1)));
      mean[0] = m0 - (c00 * t0 + c01 * t1);
      mean[1] = m1 - (c01 * t0 + c11 * t1);
      cov[0] = c00;
      cov[1] = cov[3] = c01;
      cov[4] = c11;
      return;
    }
    const m2 = priorMean[s2] as number;
    const d2 = 1 / (priorVariance[s2] as number);
    const g22 = gram[s2 * vectors + s2] as number;
    const g02 = gram[s0 * vectors + s2] as number;
    const g12 = gram[s1 * vectors + s2] as number;
    const xe2 = x === 0 ? 0 : x * (gram[s2 * vectors + e] as number);
    const t0 = (g[s0] as number) + m0 * g00 + m1 * g01 + m2 * g02 + xe0;
    const t1 = (g[s1] as number) + m0 * g01 + m1 * g11 + m2 * g12 + xe1;
    const t2 = (g[s2] as number) + m0 * g02 + m1 * g12 + m2 * g22 + xe2;
    const quad = q0 + m0 * ((g[s0] as number) + t0 + xe0) + m1 * ((g[s1] as number) + t1 + xe1) + m2 * ((g[s2] as number) + t2 + xe2) + ge;
    const p = d0 + g00;
    const q = d1 + g11;
    const r = d2 + g22;
    const k00 = q * r - g12 * g12;
    const k01 = g02 * g12 - g01 * r;
    const k02 = g01 * g12 - g02 * q;
    const det = p * k00 + g01 * k01 + g02 * k02;
    cov[0] = k00 / det;
    cov[1] = cov[3] = k01 / det;
    cov[2] = cov[6] = k02 / det;
    cov[4] = (p * r - g02 * g02) / det;
    cov[5] = cov[7] = (g01 * g02 - g12 * p) / det;
    cov[8] = (p * q - g01 * g01) / det;
    const z0 = (cov[0] as number) * t0 + (cov[1] as number) * t1 + (cov[2] as number) * t2;
    const z1 = (cov[3] as number) * t0 + (cov[4] as number) * t1 + (cov[5] as number) * t2;
    const z2 = (cov[6] as number) * t0 + (cov[7] as number) * t1 + (cov[8] as number) * t2;
    out.logLikelihood = -0.5 * (quad - (t0 * z0 + t1 * z1 + t2 * z2) + Math.log(det / (d0 * d1 * d2)));
    mean[0] = m0 - z0;
    mean[1] = m1 - z1;
    mean[2] = m2 - z2;
  };

  const predict = (kind: "power" | "ladder", at: number): Predictive => {
    const cross = new Float64Array(n);
    readings.forEach((r, i) => {
      cross[i] = backgroundCov(kind, at, r.kind, r.at) + shared(kind, r.kind, false, r.floating);
    });
    const k = new Float64Array(n);
    for (let i = 0; i < n; i++) k[i] = dot(inverse, i * n, cross, 0);
    const gain = new Float64Array(states);
    const extraGain = new Float64Array(places);
    for (let s = 0; s < states; s++) gain[s] = direction(kind, at, s) - dot(k, 0, a, s * n);
    for (let j = 0; j < places; j++) extraGain[j] = direction(kind, at, states + j) - dot(k, 0, a, (states + j) * n);
    return {
      baseMean: baseMean(kind, at) + dot(k, 0, residual, 0),
      baseVariance: Math.max(1e-9, backgroundCov(kind, at, kind, at) + shared(kind, kind, false, false) - dot(k, 0, cross, 0)),
      gain,
      extraGain,
    };
  };

  const backgroundUnder = (at: number, s0: number, s1: number, s2: number, post: SetPosterior) => {
    const v = background.variance[at] as number;
    const h = states + at;
    const set = [s0, s1, s2];
    // Residual after the set's posterior losses, seen along this station's own direction.
    let along = (g[h] as number) + (post.extra === 0 ? 0 : post.extra * (gram[h * vectors + states + post.extraAt] as number));
    let explained = gram[h * vectors + h] as number;
    for (let i = 0; i < 3; i++) {
      const s = set[i] as number;
      if (s < 0) break;
      const hi = gram[h * vectors + s] as number;
      along += hi * (post.mean[i] as number);
      for (let k = 0; k < 3; k++) {
        const u = set[k] as number;
        if (u < 0) break;
        explained -= hi * (post.cov[3 * i + k] as number) * (gram[h * vectors + u] as number);
      }
    }
    return { mean: (background.mean[at] as number) - v * along, variance: Math.max(1e-9, v - v * v * explained) };
  };

  return { states, priorMean, priorVariance, evaluate, predict, background: backgroundUnder, newPosterior };
}

interface OffAxis {
  /** Extra loss (ln power) of each pair of states. */
  readonly extraOf: Float64Array;
  /** Path index where a state's off-axis loss shows; 0 for states that do not move the beam. */
  readonly offAxisAt: Int16Array;
}

/** A model is built once per machine, and the pairs depend on nothing else. */
const offAxisOf = new WeakMap<TraceModel, OffAxis>();

/**
 * Beams pushed off axis by two faults add as vectors: each loss is turned into the offset that would cause it at the
 * tighter of the two apertures (M1), the offsets are added at right angles (their mean direction), and the extra is the
 * loss there less the two single losses. Positive or negative, in ln power; 0 for every other pair.
 */
function offAxisExtras(model: TraceModel, priorMean: Float64Array, lossAt: Int16Array): OffAxis {
  const known = offAxisOf.get(model);
  if (known) return known;
  const states = priorMean.length;
  const extraOf = new Float64Array(states * states);
  const offAxisAt = new Int16Array(states);
  const moving = Array.from({ length: states }, (_, s) => s).filter((s) => model.faults[s >> 1]?.movesBeam && (lossAt[s] as number) >= 0);
  const radius = (s: number) => {
    const station = model.stations[lossAt[s] as number];
    return station && station.role !== "nozzle" ? station.apertureMm / 2 : 9;
  };
  for (const p of moving) {
    offAxisAt[p] = lossAt[p] as number;
    for (const q of moving) {
      if (p >> 1 === q >> 1) continue;
      const aperture = Math.min(radius(p), radius(q));
      const lossP = priorMean[p] as number;
      const lossQ = priorMean[q] as number;
      const offset = (loss: number) => offsetForLogLoss(aperture, model.beamRadiusMm, loss);
      const together = Math.hypot(offset(lossP), offset(lossQ));
      extraOf[p * states + q] = clipLogLoss(aperture, model.beamRadiusMm, together) - lossP - lossQ;
    }
  }
  const result = { extraOf, offAxisAt };
  offAxisOf.set(model, result);
  return result;
}
