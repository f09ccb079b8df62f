/**
 * Parts that can only be done together: a reader lies over its strip, two fans sit behind one shroud, and the inner face of a window is
 * reached through the seat of the mirror before it. Each such unit is one part of a round, with one order, wherever it appears.
 */

import type { Need, Procedure, Step } from "#core/rounds";
import { lowerFirst } from "../words";
import { type Trade, windowBehind } from "./trade";

/** A part under the answers that ask for it: what it did not ask for itself waits for them. */
export const askedFor = (procedure: Procedure, needs: readonly Need[]): Procedure => ({
  ...procedure,
  steps: procedure.steps.map((s) => (s.when ? s : { ...s, when: needs })),
});

/** The parts of a round with those that belong to one unit made one, at the place of the first of them. */
export function together(trade: Trade, parts: readonly Procedure[]): Procedure[] {
  return [readerAndStrip, fansBehindOneShroud, windowThroughMirror, bedAlone].reduce((list, unit) => unit(trade, list), [...parts]);
}

const has = (parts: readonly Procedure[], id: string) => parts.find((p) => p.id === id);

/** Puts one procedure for two, where the first stood. */
function merged(parts: readonly Procedure[], first: Procedure, second: Procedure, steps: readonly Step[]): Procedure[] {
  const provenBy = first.provenBy ?? second.provenBy;
  return parts.flatMap((p) => (p === first ? [{ ...first, steps, provenBy }] : p === second ? [] : [p]));
}

/** The steps of one part with those of another put in before it is closed; what both open is opened once. */
function within(outer: Procedure, inner: Procedure): Step[] {
  const opened = new Set(outer.steps.flatMap((s) => s.leaves?.out ?? []));
  const own = inner.steps.filter((s) => !opened.has(s.leaves?.out ?? "") && !opened.has(s.leaves?.back ?? ""));
  return [...outer.steps.filter((s) => !s.last), ...own, ...outer.steps.filter((s) => s.last)];
}

/** The reader is never off without its strip being wiped before the slot is drawn through. */
function readerAndStrip({ procedures }: Trade, parts: Procedure[]): Procedure[] {
  const reader = has(parts, "encoder-reader");
  const strip = has(parts, "encoder") ?? procedures.get("encoder");
  if (!reader || !strip) return parts;
  const list = parts.includes(strip) ? parts : parts.flatMap((p) => (p === reader ? [strip, p] : [p]));
  return merged(list, strip, reader, within(strip, reader));
}

function fansBehindOneShroud(_: Trade, parts: Procedure[]): Procedure[] {
  const air = has(parts, "air");
  const fan = has(parts, "head-fan");
  const opens = (p: Procedure | undefined) => p?.steps.some((s) => s.leaves?.out === "shroud") === true;
  return air && fan && opens(air) && opens(fan) ? merged(parts, air, fan, within(air, fan)) : parts;
}

/** Slats that are washed are not wiped before. */
const bedAlone = (_: Trade, parts: Procedure[]): Procedure[] => (has(parts, "bed") ? parts.filter((p) => p.id !== "slats-wipe") : parts);

const HAZE = [1, 3] as const;

/**
 * Whenever the mirror comes out the inner face of the window behind it is done, before the mirror goes back; and haze on the window brings
 * the mirror out. Where that mirror is not an owner's to take out, the inner face is not either.
 */
function windowThroughMirror({ layout, procedures }: Trade, parts: Procedure[]): Procedure[] {
  const behind = windowBehind(layout.path);
  const mirror = behind && procedures.get(behind.mirror.id);
  const window = behind && procedures.get(behind.window.id);
  if (!mirror || !window || window.byOthers) return parts;
  const [m, w] = [has(parts, mirror.id), has(parts, window.id)];
  if (!m && !w) return parts;
  const isInner = (s: Step) => s.id.startsWith(`${window.id}.inner`);
  if (mirror.byOthers) return parts.map((p) => (p === w ? { ...p, steps: p.steps.filter((s) => !isInner(s)) } : p));
  const haze = (p: Procedure): Need => ({ step: `${p.id}.found`, grades: HAZE, said: ["anyway"] });
  const out = [...(m ? [haze(mirror)] : []), ...(w ? [haze(window)] : [])];
  const moves = (s: Step) => s.leaves?.out === mirror.id || s.leaves?.back === mirror.id;
  const steps = (m ?? askedFor(mirror, [haze(window)])).steps.map((s) => (moves(s) ? { ...s, when: out } : s));
  const own = window.steps.map((s) => (s.id === `${window.id}.inner` ? { ...s, when: out } : s));
  const inner = own.filter((s) => isInner(s) || (s.phase === "as-left" && s.station === window.id));
  const isFirst = (s: Step) => m !== undefined && s.id === `${mirror.id}.found`;
  const all = [
    ...steps.filter(isFirst),
    ...(w ? own.filter((s) => !inner.includes(s)) : []),
    ...steps.filter((s) => !isFirst(s) && s.leaves?.back !== mirror.id),
    ...(w ? inner : inner.map((s) => (s.phase === "as-left" ? { ...s, when: s.when?.filter((n) => n.step !== `${window.id}.found`) } : s))),
    ...steps.filter((s) => s.leaves?.back === mirror.id),
  ] as Step[];
  // Done by turns, so they are one stretch of the way.
  const both = `${mirror.name}, ${lowerFirst(window.name)}`;
  const unit: Procedure = { ...mirror, steps: w ? all.map((s) => ({ ...s, part: both })) : all };
  const first = m ?? w;
  return parts.flatMap((p) => (p === first ? [unit] : p === m || p === w ? [] : [p]));
}
