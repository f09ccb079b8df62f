/** What share of glycol is in a loop now: the last fill or tester's reading, and every top-up since. */
import { afterTopUp, freezingPoint, shareFreezingAt } from "#core/coolant";
import type { EventLog, EventOf } from "#core/events";
import { doneTimes } from "#core/schedule";
import { withUnit } from "../units";

/** A share between two, since nobody said what some top-ups were for; and the steps it was come to by. */
export interface ShareNow {
  readonly low: number;
  readonly high: number;
  readonly sinceMs: number;
  readonly steps: readonly { readonly atMs: number; readonly said: string; readonly low: number; readonly high: number }[];
}

/** Share (0..0.5) a record says; undefined for one that says none. */
function toldShare({ payload: p }: EventOf<"coolant">): number | undefined {
  if (p.glycolPercent !== undefined) return Math.min(0.5, p.glycolPercent / 100);
  if (p.freezingC !== undefined) return p.freezingC < -34 ? 0.5 : shareFreezingAt(p.freezingC);
  return p.filledL !== undefined ? 0 : undefined;
}

/** Undefined where nobody ever said, or the coolant was changed since. */
export function shareNow(log: EventLog, loopL: number | undefined, nowMs: number): ShareNow | undefined {
  const events = log.kinds.coolant.slice().filter((e) => e.atMs <= nowMs);
  const from = events.findLastIndex((e) => toldShare(e) !== undefined);
  const told = events[from];
  const share = told && toldShare(told);
  if (!told || share === undefined) return undefined;
  const changedMs = doneTimes(log, { station: "coolant", tasks: ["coolant-change"], plain: false }).findLast((ms) => ms <= nowMs);
  if (changedMs !== undefined && changedMs > told.atMs + SAME_WORK_MS) return undefined;
  let [low, high] = [share, share];
  const said = told.payload.filledL === undefined ? "by a tester" : "filled";
  const steps: ShareNow["steps"][number][] = [{ atMs: told.atMs, said, low, high }];
  for (const e of events.slice(from + 1)) {
    const { toppedUpL: litres, lost } = e.payload;
    if (litres === undefined || loopL === undefined) continue;
    // Where nobody said how it was lost it may have been either.
    const after = (s: number, how: "evaporated" | "leaked") => afterTopUp(loopL, s, { litres, lost: how });
    low = after(low, lost ?? "leaked");
    high = after(high, lost ?? "evaporated");
    steps.push({ atMs: e.atMs, said: `${withUnit(litres, "L", 2)} of water for what ${lost ?? "evaporated or leaked"}`, low, high });
  }
  return { low, high, sinceMs: told.atMs, steps };
}

/** A fill is logged with the change it belongs to, in either order. */
const SAME_WORK_MS = 6 * 3_600_000;

/** Where the weaker of a share freezes. */
export const safeTo = ({ low }: Pick<ShareNow, "low">): number => freezingPoint(Math.min(0.5, low));
