import { Z90 } from "#core/normal";
import type { LadderResult } from "./ladder";

/** A ladder reduced to what ratios need. `setPercent` is the panel's power setting, 1..100. */
export interface LadderPoint {
  readonly result: LadderResult;
  readonly setPercent: number;
}

export type EffectiveRatio =
  | {
      readonly kind: "ratio";
      /** Effective power against the baseline; 1 is as good as then. */
      readonly ratio: number;
      /** Standard error of ln ratio. */
      readonly seLn: number;
      /** 90 % range of the ratio. */
      readonly low: number;
      readonly high: number;
    }
  | { readonly kind: "at-least"; readonly ratio: number }
  | { readonly kind: "at-most"; readonly ratio: number }
  | { readonly kind: "none"; readonly reason: string };

/** Ratio with its 90 % range from a log ratio and its standard error. */
export function ratioRange(lnRatio: number, seLn: number): Extract<EffectiveRatio, { kind: "ratio" }> {
  return {
    kind: "ratio",
    ratio: Math.exp(lnRatio),
    seLn,
    low: Math.exp(lnRatio - Z90 * seLn),
    high: Math.exp(lnRatio + Z90 * seLn),
  };
}

/**
 * Effective power of one ladder against another of the same material:
 * r = (v50/v50_base)^β · P_set_base/P_set, se(ln r) = β √(se² + se_base²). β > 0, default 1.
 * Also serves "what the round bought": the ladder after against the ladder before, in which the baseline drops out.
 */
export function effectiveRatio(now: LadderPoint, base: LadderPoint, beta = 1): EffectiveRatio {
  if (base.result.kind !== "estimate") {
    return {
      kind: "none",
      reason:
        base.result.kind === "none"
          ? `the baseline ladder cannot be read: ${base.result.reason}`
          : "the baseline ladder gave only a bound: some of its rungs must drop and some must stay",
    };
  }
  const power = base.setPercent / now.setPercent;
  if (now.result.kind === "none") return now.result;
  if (now.result.kind !== "estimate") {
    return { kind: now.result.kind, ratio: (now.result.speedMmPerS / base.result.v50) ** beta * power };
  }
  const lnRatio = beta * Math.log(now.result.v50 / base.result.v50) + Math.log(power);
  return ratioRange(lnRatio, beta * Math.hypot(now.result.seLn, base.result.seLn));
}

/** What a single cut at a known setting can end as. */
export const CUT_RESULTS = ["through", "hangs", "part-through", "surface-only"] as const;
export type CutResult = (typeof CUT_RESULTS)[number];

export interface SingleCut {
  readonly speedMmPerS: number;
  readonly setPercent: number;
  readonly result: CutResult;
  /** Times the beam went over it; their energies add. One where left out. */
  readonly passes?: number | undefined;
  /** Depth reached as a share of the thickness (0..1), when it was measured. */
  readonly depthShare?: number | undefined;
}

/** A censored reading of ln effective power: the truth lies above, below or about `lnRatio`, blurred by `sd`. */
export interface CensoredRatio {
  readonly side: "above" | "below" | "about";
  readonly lnRatio: number;
  readonly sd: number;
}

/**
 * What one cut says of effective power against a baseline ladder: through, r is at least the ratio this speed needs; not
 * through, at most that; passes count as that much more power; hangs, about that (sd β·s). A measured depth short of through gives
 * r = depth share · (v/v50)^β · P_base/P, sd 0.15. Returns undefined when the baseline is only a bound.
 */
export function censoredRatio(cut: SingleCut, base: LadderPoint, beta = 1): CensoredRatio | undefined {
  if (base.result.kind !== "estimate") return undefined;
  const needed =
    beta * Math.log(cut.speedMmPerS / base.result.v50) + Math.log(base.setPercent / cut.setPercent) - Math.log(cut.passes ?? 1);
  if (cut.result !== "through" && cut.depthShare !== undefined && cut.depthShare > 0) {
    return { side: "about", lnRatio: needed + Math.log(cut.depthShare), sd: 0.15 };
  }
  const sd = beta * 0.05;
  if (cut.result === "through") return { side: "above", lnRatio: needed, sd };
  if (cut.result === "hangs") return { side: "about", lnRatio: needed, sd };
  return { side: "below", lnRatio: needed, sd };
}

/** What a usual speed keeps in hand: the share of the one at which half would drop. */
export const IN_HAND = 0.92;

/**
 * Speed (mm/s) to use now so that a cut that ran at `usualSpeed` still drops, with 8 % in hand:
 * v = v_usual (r · P_set/P_set_base)^(1/β) · 0.92.
 */
export function suggestedSpeed(usualSpeed: number, ratio: number, setShare = 1, beta = 1): number {
  return usualSpeed * (ratio * setShare) ** (1 / beta) * IN_HAND;
}
