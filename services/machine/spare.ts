/**
 * Whether what is usually cut here still drops, and with how much to spare: v50 today over the usual speed, in the same material and at the
 * same power. The error of the ladder it is measured by drops out. The one word on the machine that every place says.
 */
import { neededLnRatio } from "#core/cuts";
import { normalCdf } from "#core/normal";
import { DAY_MS } from "#core/time";
import type { Material } from "#store/machines";
import { materialName } from "../words";
import type { Gathered } from "./gathered";
import { cutBase, powerToday } from "./known";
import { usualSetPercent } from "./usual";

/** So surely it drops, and the machine is fit; less than that, and it is weak. */
const FIT = 0.95;
const WEAK = 0.5;
/** What was cut in these last weeks is what is usually cut. */
const LATELY_MS = 28 * DAY_MS;

export interface Spare {
  readonly material: Material;
  readonly name: string;
  readonly speedMmPerS: number;
  readonly setPercent: number;
  readonly passes: number;
  /** ln v50 today over the usual speed, and its standard deviation. */
  readonly ln: number;
  readonly sd: number;
  /** Probability that it still drops, 0..1. */
  readonly drops: number;
}

export type State = "fit" | "edge" | "weak";
export const stateOf = ({ drops }: Pick<Spare, "drops">): State => (drops >= FIT ? "fit" : drops >= WEAK ? "edge" : "weak");

/** The settings a material is usually cut at: its owner's book, else its usual setting. */
export function usualOf(g: Pick<Gathered, "log">, m: Material): { speedMmPerS: number; setPercent: number; passes: number } | undefined {
  const own = g.log.kinds.setting.findLast((e) => e.payload.materialId === m.id && e.payload.purpose === "cut")?.payload;
  if (own) return { speedMmPerS: own.speedMmPerS, setPercent: own.setPercent, passes: own.passes ?? 1 };
  return m.usualSpeedMmPerS === undefined ? undefined : { speedMmPerS: m.usualSpeedMmPerS, setPercent: usualSetPercent(m), passes: 1 };
}

/** What every usual cut of the last four weeks has to spare, the weakest first; of all materials where none was cut lately. Only what a ladder tells of. */
export function spareOf(g: Gathered): readonly Spare[] {
  const all = g.materials.flatMap((m): Spare[] => {
    const usual = m.hidden ? undefined : usualOf(g, m);
    const base = cutBase(g, m);
    const known = base?.ladder && powerToday(g, base, m);
    if (!usual || !base || !known) return [];
    const ln = (known.lnRatio - neededLnRatio(usual, base, m.beta)) / m.beta;
    const sd = known.sd / m.beta;
    return [{ material: m, name: materialName(m), ...usual, ln, sd, drops: normalCdf(ln / sd) }];
  });
  const lately = new Set<number>();
  for (const kind of ["job", "cut", "ladder"] as const) {
    const list = g.log.kinds[kind];
    for (let i = list.length - 1; i >= 0; i--) {
      const e = list.at(i);
      if (!e || e.atMs < g.nowMs - LATELY_MS) break;
      lately.add(e.payload.materialId);
    }
  }
  const recent = all.filter((s) => lately.has(s.material.id));
  return (recent.length > 0 ? recent : all).toSorted((a, b) => a.drops - b.drops);
}
