/** When the shop became another: what was found before a new kind of dirt, room or exhaust says little of how often now. */
import { materialKinds } from "#catalog/materials";
import type { EventLog } from "#core/events";
import type { Upkeep } from "#core/machine";
import { lastReplacedMs } from "#core/schedule";
import { DAY_MS } from "#core/time";
import type { Material } from "#store/machines";

export interface ShopChange {
  readonly sinceMs: number;
  /** What changed, to go after "since": "acrylic is cut here". */
  readonly words: string;
}

/** A kind of dirt is new where nobody made it for so long at the log's begin, and it is at least so much of what is cut since. */
const SETTLED_MS = 45 * DAY_MS;
const SHARE = 0.25;

const DIRT_WORDS = {
  resin: "wood and its like are cut here",
  gum: "acrylic and its like are cut here",
  powder: "stone, rubber and their like are cut here",
} as const;
type Dirt = keyof typeof DIRT_WORDS;
const EXHAUST_PARTS = ["inline-fan", "cabinet-fan", "duct"] as const;

/** The last change of a shop; undefined where it is what it was. */
export function shopChange(log: EventLog, materials: readonly Material[], upkeep: Upkeep | undefined): ShopChange | undefined {
  const changes: ShopChange[] = [];
  if (upkeep?.shop)
    changes.push({ sinceMs: upkeep.shop.sinceMs, words: upkeep.shop.what === "room" ? "the room is another" : "the exhaust is another" });
  for (const part of EXHAUST_PARTS) {
    const sinceMs = lastReplacedMs(log, part);
    if (sinceMs !== undefined) changes.push({ sinceMs, words: "the exhaust has a new part" });
  }
  const dirt = newDirt(log, materials);
  if (dirt) changes.push(dirt);
  return changes.sort((a, b) => b.sinceMs - a.sinceMs)[0];
}

interface DirtSum {
  readonly firstMs: number;
  own: number;
  all: number;
}

/** What newDirt found, as long as the jobs and what is cut are the same. */
const known = new WeakMap<EventLog["kinds"]["job"], { readonly kinds: string; readonly change: ShopChange | undefined }>();

function newDirt({ kinds: { job: jobs } }: EventLog, materials: readonly Material[]): ShopChange | undefined {
  const kinds = materials.map((m) => `${m.id} ${m.kind}`).join();
  const before = known.get(jobs);
  if (before?.kinds === kinds) return before.change;
  const kindOf = new Map(materials.map((m) => [m.id, materialKinds.find((k) => k.id === m.kind)?.dirt]));
  const startMs = jobs.at(0)?.atMs ?? 0;
  const sums = new Map<Dirt, DirtSum>();
  for (const { atMs, payload } of jobs) {
    const dirt = kindOf.get(payload.materialId);
    if (dirt && !sums.has(dirt)) sums.set(dirt, { firstMs: atMs, own: 0, all: 0 });
    for (const [of, sum] of sums) {
      sum.all += payload.minutes;
      if (of === dirt) sum.own += payload.minutes;
    }
  }
  const change = [...sums]
    .flatMap(([dirt, { firstMs, own, all }]): ShopChange[] =>
      firstMs - startMs >= SETTLED_MS && own >= SHARE * all ? [{ sinceMs: firstMs, words: DIRT_WORDS[dirt] }] : [],
    )
    .sort((a, b) => b.sinceMs - a.sinceMs)[0];
  known.set(jobs, { kinds, change });
  return change;
}
