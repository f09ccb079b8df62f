/** The settings book: what works for each material and purpose, and what to use today instead. */
import { sureSpeed } from "#core/cuts";
import type { EventPayload } from "#core/events";
import { DAY_MS } from "#core/time";
import { factorOf, foulingOf } from "#core/wear";
import type { Material } from "#store/machines";
import { CUT_WORDS, PURPOSE_WORDS } from "../log/words";
import { opticsOf } from "../machine/condition";
import type { Gathered } from "../machine/gathered";
import { cutBase, knownPower } from "../machine/known";
import { powerWords, stateWords } from "../machine/stateWords";
import { slowestSafe, usualSetPercent } from "../machine/usual";
import { withUnit } from "../units";
import { materialName, number, shortDay } from "../words";

export type Purpose = EventPayload["setting"]["purpose"];
const PURPOSES = ["cut", "score", "engrave"] as const satisfies readonly Purpose[];

/** What a material is done with: the newest entry of the book, else for a cut its usual setting. */
export function booked(
  g: Pick<Gathered, "log">,
  m: Material,
  purpose: Purpose,
): (Omit<EventPayload["setting"], "materialId" | "purpose"> & { atMs?: number }) | undefined {
  const own = g.log.kinds.setting.findLast((e) => e.payload.materialId === m.id && e.payload.purpose === purpose);
  if (own) return { ...own.payload, atMs: own.atMs };
  if (purpose !== "cut" || m.usualSpeedMmPerS === undefined) return undefined;
  return { speedMmPerS: m.usualSpeedMmPerS, setPercent: usualSetPercent(m) };
}

/** Cuts that stand behind a suggestion go back this far. */
const RECENT_MS = 90 * DAY_MS;

export function bookView(g: Gathered) {
  return {
    slug: g.machine.slug,
    machine: g.machine.name,
    day: shortDay(g.nowMs, g.nowMs),
    /** What the machine is worth today, as every place says it. */
    power: g.condition && [stateWords(g)?.headline, powerWords(g.condition)].filter(Boolean).join(" "),
    lines: g.materials
      .filter((m) => !m.hidden)
      .map((m) => ({
        id: m.id,
        name: materialName(m),
        purposes: PURPOSES.map((purpose) => lineOf(g, m, purpose)),
        behind: behindOf(g, m),
      })),
  };
}

function lineOf(g: Gathered, m: Material, purpose: Purpose) {
  const own = booked(g, m, purpose);
  const passes = own?.passes ?? 1;
  const suggestion = purpose === "cut" ? cutToday(g, m, own?.setPercent ?? usualSetPercent(m), passes) : markToday(g, own);
  return {
    purpose,
    name: PURPOSE_WORDS[purpose],
    own: own && {
      speed: number(own.speedMmPerS),
      power: number(own.setPercent, 0),
      more: [
        passes > 1 ? `${passes} passes` : "",
        own.air ? `air ${own.air}` : "",
        own.focusMm === undefined ? "" : `focus ${withUnit(own.focusMm, "mm")} below the face`,
        own.lineMm === undefined ? "" : `lines ${withUnit(own.lineMm, "mm", 2)} apart`,
      ]
        .filter(Boolean)
        .join(", "),
      since: own.atMs === undefined ? "from the Workshop" : `noted ${shortDay(own.atMs, g.nowMs)}`,
    },
    ...suggestion,
  };
}

/** Speeds at which a cut surely drops: now, and still just before the lens is due. */
function cutToday(g: Gathered, m: Material, setPercent: number, passes: number) {
  const base = cutBase(g, m);
  const known = base && knownPower(g, base, m);
  if (!known || !base) return { now: "", later: "", why: base ? "needs a baseline ladder" : "cut a ladder of it once" };
  const speed = (lnRatio: number) => sureSpeed({ ...known, lnRatio }, { setPercent, passes }, base, m.beta);
  const slowest = slowestSafe(m);
  // Slower it burns rather than cuts: then more power or another pass is the way.
  const words = (v: number) => (v < slowest ? "not at this power" : withUnit(v, "mm/s"));
  return {
    now: words(speed(known.lnRatio)),
    later: words(speed(known.lnRatio - untilClean(g))),
    why: base.ladder
      ? `98 % sure, by the ladder of ${shortDay(base.ladder.atMs, g.nowMs)}`
      : "98 % sure, by its usual setting: no ladder of it yet",
  };
}

/** What the lens will lose until its next clean, in ln power. */
function untilClean(g: Gathered): number {
  const due = g.due.find((d) => d.id === "lens");
  const interval = g.trade.layout.intervalPlyHours.lens;
  if (!due || interval === undefined || due.left.unit !== "ply-hours" || due.left.amount <= 0) return 0;
  const optic = opticsOf(g.trade).findIndex((s) => s.id === "lens");
  return foulingOf(due.left.amount, interval) * (g.condition ? factorOf(g.condition.fit, optic).mean : 1);
}

/** A mark is kept as dark as it was noted: the power set follows the beam. */
function markToday(g: Gathered, own: ReturnType<typeof booked>) {
  if (!own?.atMs || !g.condition) return { now: "", later: "", why: "" };
  const then = g.ladders
    .take(g.ladders.firstIndex((l) => l.event.atMs > (own.atMs as number)))
    .findLast((l) => l.effective.kind === "ratio");
  if (then?.effective.kind !== "ratio") return { now: "", later: "", why: "" };
  const setPercent = (own.setPercent * then.effective.ratio) / g.condition.ratio;
  if (setPercent > 100) return { now: "slower", later: "", why: `the beam is too weak to be as dark as on ${shortDay(own.atMs, g.nowMs)}` };
  return {
    now: `${number(setPercent)} %`,
    later: "",
    why: `as dark as when it was noted, with the beam at ${Math.round(100 * then.effective.ratio)} % of best then`,
  };
}

/** The latest results of a material. */
function behindOf(g: Gathered, m: Material): string {
  const cuts = g.log.kinds.cut
    .slice(Math.max(0, g.log.kinds.cut.length - 400))
    .filter((e) => e.payload.materialId === m.id && e.atMs > g.nowMs - RECENT_MS);
  const last = cuts.at(-1);
  const through = cuts.filter((e) => e.payload.result === "through").length;
  const ladder = g.log.kinds.ladder.findLast((e) => e.payload.materialId === m.id);
  return [
    ladder ? `last ladder ${shortDay(ladder.atMs, g.nowMs)}` : "no ladder yet",
    cuts.length > 0 ? `${through} of ${cuts.length} cuts in three months dropped` : "",
    last ? `the last ${CUT_WORDS[last.payload.result]}` : "",
  ]
    .filter(Boolean)
    .join(", ");
}
