/** What the log's forms offer: materials with the rungs to try, usual speeds, stations. */
import { materialKinds } from "#catalog/materials";
import { ROLE_TRAITS } from "#core/beam";
import { IN_HAND, suggestRungs } from "#core/cuts";
import type { Gathered } from "../machine/gather";
import { baselineFor, resultOf } from "../machine/ladders";
import { usualSetPercent } from "../machine/usual";
import { materialName, number } from "../words";
import { doneParts } from "./kinds/service";

/** A material a ladder can be cut in, with the speeds to try. */
export interface LadderMaterial {
  readonly id: number;
  readonly label: string;
  readonly setPercent: string;
  /** Speeds to try, mm/s. */
  readonly rungs: readonly string[];
}

export interface EntryOptions {
  readonly materials: readonly LadderMaterial[];
  readonly speeds: Readonly<Record<string, string>>;
  /** No ladder was ever cut here: what one is has to be said. */
  readonly firstLadder: boolean;
  /** Parts something can be done to. */
  readonly done: readonly { readonly value: string; readonly label: string }[];
  readonly stations: readonly { readonly id: string; readonly name: string; readonly powered: boolean }[];
}

const offered = (m: Gathered["materials"][number]) => !m.hidden;

/** Speeds to cut next: around the last baseline, else around what this kind of sheet usually takes. */
export function ladderMaterials(g: Gathered): LadderMaterial[] {
  return g.materials
    .filter((m) => offered(m) && !materialKinds.find((k) => k.id === m.kind)?.engraved)
    .map((m) => {
      const base = baselineFor(g.log, m.id, g.nowMs);
      const read = base && resultOf(base);
      const kind = materialKinds.find((k) => k.id === m.kind);
      const typical = ((kind?.speedAt3mm ?? 12) * 3 * (g.machine.ratedPowerW / 80)) / m.thicknessMm;
      // Around where it should drop today, so that some rungs drop and some stay.
      const expected =
        read?.kind === "estimate" ? read.v50 * Math.min(1, g.condition?.ratio ?? 1) : (m.usualSpeedMmPerS ?? typical) / IN_HAND;
      const setPercent = base?.payload.setPercent ?? usualSetPercent(m);
      return { id: m.id, label: materialName(m), setPercent: number(setPercent, 0), rungs: suggestRungs(expected).map((v) => number(v)) };
    });
}

export function entryOptions(g: Gathered): EntryOptions {
  return {
    materials: ladderMaterials(g),
    speeds: Object.fromEntries(g.materials.map((m) => [String(m.id), m.usualSpeedMmPerS === undefined ? "" : number(m.usualSpeedMmPerS)])),
    firstLadder: g.log.kinds.ladder.length === 0,
    done: doneParts(g).map(({ id, name }) => ({ value: id, label: name })),
    stations: g.trade.layout.stations.map((s) => ({
      id: s.id,
      name: g.trade.layout.names[s.id] ?? s.id,
      powered: ROLE_TRAITS[s.role].isMetered,
    })),
  };
}
