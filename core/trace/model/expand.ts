/** The catalog's templates made out for one machine: its mirrors by number, its path's lengths, what its layout lacks left out. */

import { ROLE_TRAITS } from "#core/beam";
import type { Condition, LayoutSpec } from "#core/machine";
import { forMirror, idAt, isForEach, parseId } from "#core/machine";
import { type MarkEffect, markShown, type Tilt, tiltsOn } from "./tilt";
import { holdingBack } from "./trying";
import type { BySeverity, CheckSpec, Effect, FaultSpec, RepairSpec, Symptom, TraceModel, UsageDriver, ValueScale } from "./types";

/**
 * Turns the catalog's templates into one machine's faults, checks and repairs. `@k` is the number in a mirror's id; `@next` is the
 * next aperture after it, `@after` every mirror after it. What the layout lacks is left out.
 */

/** A figure that differs at the head mirror, where dirt is worst, and (for aim) at the tube itself. */
export type ByPlace = number | { readonly head: number; readonly back: number; readonly tube?: number };

export interface FaultTemplate {
  readonly id: string;
  /** `mirror@k`, `aim@k` (the tube for k = 0), or a station's or system's id. */
  readonly station: string;
  /** What the machine, or the part it stands at, must be like. */
  readonly when?: Condition;
  /** As `station`, or `next`; left out where watts do not see the fault. */
  readonly lossAt?: string;
  readonly loss?: BySeverity<number>;
  readonly lossSd?: BySeverity<number>;
  readonly cutGain?: number;
  readonly movesBeam?: boolean;
  readonly baseRate: ByPlace;
  readonly reason: string;
  readonly heavyShare?: number;
  readonly usage?: "dose" | "tube-hours" | "seat" | "coolant-age";
  readonly symptoms: Partial<Record<Symptom, number>>;
  readonly effects: Readonly<Record<string, Effect | MarkEffect | readonly Effect[]>>;
  /** Tilts the beam: its loss and its marks follow from the path behind it. */
  readonly tilts?: boolean;
  /** How an aim shows over the bed with no, one, or two legs after it that grow with travel, and with the only one there is. */
  readonly bedMapByTravel?: readonly [Effect, Effect, Effect, Effect];
  readonly repair: string;
  /** Other repairs that put it right on the way. */
  readonly mendedBy?: readonly string[];
}

export interface CheckTemplate {
  readonly id: string;
  /** Station or system it needs on the machine; `mirror` expands it over the mirrors, `moving` over those that travel, `power` over stations. */
  readonly needs?: string;
  /** What the machine, or the part it stands at, must be like. */
  readonly when?: Condition;
  readonly kind: CheckSpec["kind"];
  readonly outcomes: readonly string[];
  readonly leak: readonly number[];
  readonly leakWeight?: number;
  readonly value?: ValueScale;
  readonly measures?: "power" | "ladder" | "cut";
  readonly minutes: ByPlace;
  readonly needsOpen?: string;
  readonly minutesOpened?: number;
  /** Station whose spare it takes. */
  readonly needsSpare?: string;
  readonly gated?: boolean;
  /** The beam is fired for it. */
  readonly fires?: boolean;
  readonly symptom?: Symptom;
  /** Its outcomes are the grades of the optic that is opened for it. */
  readonly graded?: boolean;
  /** Looks at the part itself. */
  readonly sight?: boolean;
  /** An answer that is a repair and its proof in one. */
  readonly tries?: { readonly outcome: string; readonly repair: string };
  /** Of how it came, which no repair changes; or of the beam's way, which some do. */
  readonly speaksOf?: CheckSpec["speaksOf"];
  readonly slip?: number;
}

export interface RepairTemplate {
  readonly id: string;
  readonly needs?: string;
  /** What the machine, or the part it stands at, must be like. */
  readonly when?: Condition;
  readonly minutes: ByPlace;
  readonly proofMinutes?: number;
  readonly needlessMinutes?: number;
  /** Station it opens. */
  readonly opens?: string;
  /** False where nothing is opened or touched that would have to be made safe. */
  readonly madeSafe?: boolean;
  /** Touches what the beam, the focus or the bed stand by. */
  readonly movesBeam?: boolean;
}

/** Loss that one interval of ordinary fouling brings: about the haze grade. */
const LOSS_AT_INTERVAL = 0.02;
/** What the usual setting leaves (ln effective power) below the v50 of a good machine, on top of the fouling between two rounds. */
const USUAL_RESERVE = 0.08;
/** Ln power that a light and a heavy fault take where nothing else is said (M6), and their spread. */
const USUAL_LOSS: BySeverity<number> = [0.06, 0.22];
const USUAL_SD: BySeverity<number> = [0.03, 0.12];
/** Clipping sets in at once, so what a tilt takes scatters widely. */
const TILT_SCATTER = 0.7;
const COOLANT_INTERVAL_DAYS = 180;
const PROOF_MINUTES = 6;
/** A part that was taken out, wiped or set for nothing. */
const NEEDLESS_MINUTES = 5;

const atPlace = (value: ByPlace, head: boolean, tube = false): number =>
  typeof value === "number" ? value : head ? value.head : tube ? (value.tube ?? value.back) : value.back;

export function expandModel(
  layout: LayoutSpec,
  faults: readonly FaultTemplate[],
  checks: readonly CheckTemplate[],
  repairs: readonly RepairTemplate[],
): TraceModel {
  const fits = layout.fits ?? (() => true);
  const has = (place: string) => layout.stations.some((s) => s.id === place) || layout.systems.includes(place);
  // A mirror's number is its own for life; which comes after which is told by the path alone.
  const mirrorNumbers = layout.stations.filter((s) => s.role === "mirror").map((s) => Number(s.id.replace("mirror-", "")));
  const head = mirrorNumbers.at(-1);
  const mirrorsAfter = (k: number) => (k === 0 ? mirrorNumbers : mirrorNumbers.slice(mirrorNumbers.indexOf(k) + 1));
  /** Legs behind a mirror that grow with travel, two counting as all. */
  const legsAfter = (k: number) => Math.min(2, mirrorsAfter(k).filter((j) => layout.movingMirrors.includes(j)).length);
  const isOnlyLeg = (k: number) => layout.movingMirrors.length === 1 && legsAfter(k) === 1;
  const tiltOf = tiltsOn(layout.stations, layout.beamRadiusMm);
  const nextAperture = (k: number) => {
    const [next] = mirrorsAfter(k);
    return next === undefined ? "lens" : `mirror-${next}`;
  };
  const placeName = (template: string, k: number) =>
    template === "mirror@k"
      ? `mirror-${k}`
      : template === "aim@k"
        ? k === 0
          ? "tube"
          : `mirror-${k}`
        : template === "next"
          ? nextAperture(k)
          : template;

  const opens = (station: string | undefined, k: number) => (station === "mirror@k" ? `mirror-${k}` : station);
  const expandedChecks: CheckSpec[] = checks.flatMap((template) => {
    const make = (suffix: string, k: number, measures?: CheckSpec["measures"]): CheckSpec => ({
      id: `${template.id}${suffix}`,
      kind: template.kind,
      outcomes: template.outcomes,
      leak: template.leak,
      leakWeight: template.leakWeight ?? 0.05,
      value: template.value,
      minutes: atPlace(template.minutes, k === head),
      needsOpen: opens(template.needsOpen, k),
      grades: template.graded ? opens(template.needsOpen, k) : undefined,
      minutesOpened: template.minutesOpened,
      needsSpare: template.needsSpare,
      tries: template.tries,
      gated: template.gated ?? false,
      fires: template.fires ?? false,
      symptom: template.symptom,
      sight: template.sight,
      speaksOf: template.speaksOf,
      slip: template.slip,
      ...(measures ? { measures } : {}),
    });
    const atMirrors = (numbers: readonly number[]) =>
      numbers.filter((k) => fits(template.when, `mirror-${k}`)).map((k) => make(`@${k}`, k));
    if (template.needs === "mirror") return atMirrors(mirrorNumbers);
    if (template.needs === "moving") return atMirrors(layout.movingMirrors);
    if (!fits(template.when, template.needs ?? "")) return [];
    if (template.needs === "power") return layout.stations.map((s) => make(`@${s.id}`, 0, { kind: "power", station: s.id }));
    if (template.needs !== undefined && !has(template.needs)) return [];
    const measures = template.measures === "ladder" || template.measures === "cut" ? ({ kind: template.measures } as const) : undefined;
    return [make("", 0, measures)];
  });
  const checkIds = new Set(expandedChecks.map((c) => c.id));

  const effectsFor = (template: FaultTemplate, k: number, tilt: Tilt | undefined): FaultSpec["effects"] => {
    const effects: Record<string, readonly Effect[]> = {};
    for (const [key, effect] of Object.entries(template.effects)) {
      const shownAt = (target: string): readonly Effect[] => {
        if (!("kind" in effect)) return effect;
        if (effect.kind !== "mark") return [effect];
        return tilt ? markShown(effect, tilt, `mirror-${parseId(target).mirror}`) : [];
      };
      const { base, at } = parseId(key);
      const next = mirrorsAfter(k)[0];
      const targets =
        at === "after"
          ? mirrorsAfter(k).map((j) => idAt(base, j))
          : at === "next"
            ? next === undefined
              ? []
              : [idAt(base, next)]
            : [forMirror(key, k)];
      for (const target of targets) if (checkIds.has(target)) effects[target] = shownAt(target);
    }
    if (template.bedMapByTravel) {
      effects["bed-map"] = [template.bedMapByTravel[isOnlyLeg(k) ? 3 : legsAfter(k)] as Effect];
    }
    return effects;
  };
  const usageFor = (template: FaultTemplate, station: string): UsageDriver | undefined => {
    switch (template.usage) {
      case "dose":
        return { kind: "dose", station, intervalPlyHours: layout.intervalPlyHours[station] ?? 40 };
      case "tube-hours":
        return { kind: "tube-hours" };
      case "seat":
        return { kind: "seat", station };
      case "coolant-age":
        return { kind: "coolant-age", intervalDays: COOLANT_INTERVAL_DAYS };
      default:
        return undefined;
    }
  };

  const expandedFaults: FaultSpec[] = faults.flatMap((template) => {
    const numbers = template.station === "mirror@k" ? mirrorNumbers : template.station === "aim@k" ? [0, ...mirrorNumbers] : [0];
    const repeated = isForEach(template.station);
    return numbers.flatMap((k) => {
      const station = placeName(template.station, k);
      if (!has(station) || !fits(template.when, station)) return [];
      const tilt = template.tilts ? tiltOf(station) : undefined;
      const loss = template.loss ?? tilt?.loss ?? USUAL_LOSS;
      return [
        {
          id: repeated ? forMirror(template.id, k) : template.id,
          station,
          lossAt: template.lossAt === undefined ? undefined : placeName(template.lossAt, k),
          loss,
          // What takes no light takes none with certainty.
          lossSd:
            template.lossSd ?? (tilt ? [TILT_SCATTER * loss[0], TILT_SCATTER * loss[1]] : loss.every((l) => l === 0) ? [0, 0] : USUAL_SD),
          cutGain: template.cutGain ?? tilt?.cutGain ?? 1,
          movesBeam: template.movesBeam ?? false,
          baseRate: atPlace(template.baseRate, repeated && k === head, k === 0),
          reason: template.reason,
          heavyShare: template.heavyShare ?? 0.4,
          usage: usageFor(template, station),
          symptoms: template.symptoms,
          effects: effectsFor(template, k, tilt),
          repair: repeated ? forMirror(template.repair, k) : template.repair,
          mendedBy: template.mendedBy?.map((r) => (repeated ? forMirror(r, k) : r)),
        } satisfies FaultSpec,
      ];
    });
  });

  /** What opening a station takes: a look at it takes so much less where it is open already. */
  const openingOf = (station: string | undefined): number => {
    const looks = expandedChecks.filter((c) => station !== undefined && c.needsOpen === station);
    return looks.length === 0 ? 0 : Math.min(...looks.map((c) => c.minutes - (c.minutesOpened ?? c.minutes)));
  };
  const expandedRepairs: RepairSpec[] = repairs.flatMap((template) => {
    const make = (id: string, head: boolean, k = 0): RepairSpec => {
      const opens = template.opens === "mirror@k" ? `mirror-${k}` : template.opens;
      return {
        id,
        minutes: atPlace(template.minutes, head),
        opens,
        openingMinutes: openingOf(opens),
        madeSafe: template.madeSafe ?? true,
        proofMinutes: template.proofMinutes ?? PROOF_MINUTES,
        needlessMinutes: template.needlessMinutes ?? NEEDLESS_MINUTES,
        movesBeam: template.movesBeam ?? false,
      };
    };
    if (!isForEach(template.id)) return fits(template.when, template.opens ?? template.needs ?? "") ? [make(template.id, false)] : [];
    const from = template.needs === "aim" ? [0, ...mirrorNumbers] : mirrorNumbers;
    return from
      .filter((k) => fits(template.when, k === 0 ? "tube" : `mirror-${k}`))
      .map((k) => make(forMirror(template.id, k), k === head, k));
  });
  const used = new Set(expandedFaults.map((f) => f.repair));

  const background = layout.stations
    .filter((s) => ROLE_TRAITS[s.role].isOptic)
    .map((s) => ({ station: s.id, intervalPlyHours: layout.intervalPlyHours[s.id] ?? 40, lossAtInterval: LOSS_AT_INTERVAL }));
  const fouling = background.reduce((sum, b) => sum + b.lossAtInterval, 0);
  // Between two rounds half of the fouling is there.
  const spare = USUAL_RESERVE + fouling / 2;
  const held = (fault: FaultSpec): FaultSpec => ({ ...fault, effects: { ...fault.effects, ...holdingBack(fault, expandedChecks, spare) } });
  return {
    stations: layout.stations,
    systems: layout.systems,
    faults: expandedFaults.map(held),
    checks: expandedChecks,
    repairs: expandedRepairs.filter((r) => used.has(r.id)),
    background,
    usualNeedLn: -(USUAL_RESERVE + fouling),
    beamRadiusMm: layout.beamRadiusMm,
  };
}
