/** Every speed ladder of a log, read and set against the baseline that held when it was cut. */
import { type EffectiveRatio, effectiveRatio, type LadderResult, readLadder } from "#core/cuts";
import { Chain, countUpTo, type EventLog, type EventOf, firstAt } from "#core/events";
import type { Material } from "#store/machines";

/** A ladder set against its baseline. */
export interface LadderReading {
  readonly event: EventOf<"ladder">;
  readonly material: Material | undefined;
  readonly effective: EffectiveRatio;
}

interface Baselines {
  readonly ladders: EventOf<"ladder">[];
  readonly times: number[];
}

/** Baseline ladders by material, sorted once for a list of ladders. */
const baselines = new WeakMap<Chain<EventOf<"ladder">>, Map<number, Baselines>>();
const results = new WeakMap<EventOf<"ladder">, LadderResult>();

/** The newest baseline ladder of a material at a time. */
export function baselineFor(log: EventLog, materialId: number, atMs: number): EventOf<"ladder"> | undefined {
  const { ladder } = log.kinds;
  let known = baselines.get(ladder);
  if (!known) {
    known = new Map();
    for (const e of ladder) {
      if (!e.payload.baseline) continue;
      const own = known.get(e.payload.materialId) ?? { ladders: [], times: [] };
      known.set(e.payload.materialId, own);
      own.ladders.push(e);
      own.times.push(e.atMs);
    }
    baselines.set(ladder, known);
  }
  const own = known.get(materialId);
  return own?.ladders[countUpTo(own.times, atMs) - 1];
}

/**
 * The baseline that "of best" means: the newest of the material it began with. A baseline of another sheet stands beside it, and takes its
 * place only where a part of the path was put in since, which makes the old one mean another machine.
 */
export function referenceBaseline(log: EventLog): EventOf<"ladder"> | undefined {
  let reference: EventOf<"ladder"> | undefined;
  const { service } = log.kinds;
  for (const ladder of log.kinds.ladder) {
    if (!ladder.payload.baseline) continue;
    const isNewPath = (sinceMs: number) =>
      service.findLast(
        (s) => s.payload.what === "replaced" && PATH.test(s.payload.station) && s.atMs > sinceMs && s.atMs <= ladder.atMs,
      ) !== undefined;
    if (!reference || reference.payload.materialId === ladder.payload.materialId || isNewPath(reference.atMs)) reference = ladder;
  }
  return reference;
}
/** Parts the light passes, or comes from. */
const PATH = /^(tube|window|side-window|lens|mirror-\d+)$/;

/** What a ladder says, read once. */
export function resultOf(ladder: EventOf<"ladder">): LadderResult {
  const known = results.get(ladder) ?? readLadder(ladder.payload.rungs);
  results.set(ladder, known);
  return known;
}

const pointOf = (ladder: EventOf<"ladder">) => ({ result: resultOf(ladder), setPercent: ladder.payload.setPercent });

/** Ladders read, in the order of the log's, with the materials they were read by. */
export interface LadderTable {
  readonly events: Chain<EventOf<"ladder">>;
  readonly readings: Chain<LadderReading>;
  readonly materials: string;
}

/**
 * Every ladder against the baseline that held when it was cut. Those at the start that an earlier table has are taken from it: what a
 * ladder is set against was always cut before it.
 */
export function readLadders(log: EventLog, materials: readonly Material[], previous?: LadderTable): LadderTable {
  const { ladder: events } = log.kinds;
  const named = JSON.stringify(materials.map(({ id, name, thicknessMm, beta }) => [id, name, thicknessMm, beta]));
  const same = previous?.materials === named ? previous.events.sharedWith(events) : 0;
  const kept = previous && same > 0 ? previous.readings.take(same) : Chain.from<LadderReading>([]);
  const byId = new Map(materials.map((m) => [m.id, m]));
  const added = events.slice(same).map((event): LadderReading => {
    const material = byId.get(event.payload.materialId);
    const base = baselineFor(log, event.payload.materialId, event.atMs);
    const effective: EffectiveRatio = base
      ? effectiveRatio(pointOf(event), pointOf(base), material?.beta ?? 1)
      : { kind: "none", reason: "no baseline ladder of this material yet" };
    return { event, material, effective };
  });
  return { events, readings: kept.append(added), materials: named };
}

/** A ladder of the log as it was read; undefined for one that is not in it. */
export function readingOf(
  g: { readonly log: EventLog; readonly ladders: Chain<LadderReading> },
  event: EventOf<"ladder">,
): LadderReading | undefined {
  const { ladder } = g.log.kinds;
  for (let i = firstAt(ladder, event.atMs); ladder.at(i)?.atMs === event.atMs; i++)
    if (ladder.at(i)?.id === event.id) return g.ladders.at(i);
  return undefined;
}
