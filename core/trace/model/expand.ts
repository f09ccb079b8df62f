/** The catalog's templates made out for one machine: its mirrors by number, its path's lengths, what its layout lacks left out. */

import { ROLE_TRAITS } from "#core/beam";
import type { LayoutSpec } from "#core/machine";
import { forMirror, idAt, isForEach, parseId } from "#core/machine";
import type { ByPlace, CheckTemplate, FaultTemplate, RepairTemplate } from "./templates";
import { markShown, type Tilt, tiltsOn } from "./tilt";
import { holdingBack } from "./trying";
import type { BySeverity, CheckSpec, Effect, FaultSpec, RepairSpec, TraceModel, UsageDriver } from "./types";

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

/** One machine's mirrors, by their numbers, and what the templates may name of it. A mirror's number is its own for life. */
interface Ground {
  readonly layout: LayoutSpec;
  readonly fits: NonNullable<LayoutSpec["fits"]>;
  readonly has: (place: string) => boolean;
  readonly mirrors: readonly number[];
  /** Number of the head mirror. */
  readonly head: number | undefined;
  /** Mirrors behind one, by the path alone; all of them behind the tube, 0. */
  readonly after: (k: number) => readonly number[];
}

function groundOf(layout: LayoutSpec): Ground {
  const mirrors = layout.stations.flatMap((s) => (s.role === "mirror" ? [Number(s.id.replace("mirror-", ""))] : []));
  return {
    layout,
    fits: layout.fits ?? (() => true),
    has: (place) => layout.stations.some((s) => s.id === place) || layout.systems.includes(place),
    mirrors,
    head: mirrors.at(-1),
    after: (k) => (k === 0 ? mirrors : mirrors.slice(mirrors.indexOf(k) + 1)),
  };
}

/**
 * Turns the catalog's templates into one machine's faults, checks and repairs. `@k` is the number in a mirror's id; `@next` is the
 * next aperture after it, `@after` every mirror after it. What the layout lacks is left out.
 */
export function expandModel(
  layout: LayoutSpec,
  faults: readonly FaultTemplate[],
  checks: readonly CheckTemplate[],
  repairs: readonly RepairTemplate[],
): TraceModel {
  const ground = groundOf(layout);
  const made = checks.flatMap((template) => checksOf(ground, template));
  const known = new Set(made.map((c) => c.id));
  const tiltOf = tiltsOn(layout.stations, layout.beamRadiusMm);
  const possible = faults.flatMap((template) => faultsOf(ground, template, tiltOf, known));
  const background = layout.stations
    .filter((s) => ROLE_TRAITS[s.role].isOptic)
    .map((s) => ({ station: s.id, intervalPlyHours: layout.intervalPlyHours[s.id] ?? 40, lossAtInterval: LOSS_AT_INTERVAL }));
  const fouling = background.reduce((sum, b) => sum + b.lossAtInterval, 0);
  // Between two rounds half of the fouling is there.
  const spare = USUAL_RESERVE + fouling / 2;
  const asked = new Set(possible.map((f) => f.repair));
  return {
    stations: layout.stations,
    systems: layout.systems,
    faults: possible.map((fault) => ({ ...fault, effects: { ...fault.effects, ...holdingBack(fault, made, spare) } })),
    checks: made,
    repairs: repairs.flatMap((template) => repairsOf(ground, template, made)).filter((r) => asked.has(r.id)),
    background,
    usualNeedLn: -(USUAL_RESERVE + fouling),
    beamRadiusMm: layout.beamRadiusMm,
  };
}

/** The station that is opened for the `@k` of a template. */
const openedAt = (station: string | undefined, k: number) => (station === "mirror@k" ? `mirror-${k}` : station);

function checksOf({ layout, fits, has, mirrors, head }: Ground, template: CheckTemplate): CheckSpec[] {
  const { needs, when } = template;
  const make = (suffix: string, k: number, measures?: CheckSpec["measures"]): CheckSpec => ({
    id: `${template.id}${suffix}`,
    kind: template.kind,
    outcomes: template.outcomes,
    leak: template.leak,
    leakWeight: template.leakWeight ?? 0.05,
    value: template.value,
    minutes: atPlace(template.minutes, k === head),
    needsOpen: openedAt(template.needsOpen, k),
    grades: template.graded ? openedAt(template.needsOpen, k) : undefined,
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
  const atMirrors = (numbers: readonly number[]) => numbers.filter((k) => fits(when, `mirror-${k}`)).map((k) => make(`@${k}`, k));
  if (needs === "mirror") return atMirrors(mirrors);
  if (needs === "moving") return atMirrors(layout.movingMirrors);
  if (!fits(when, needs ?? "")) return [];
  if (needs === "power") return layout.stations.map((s) => make(`@${s.id}`, 0, { kind: "power", station: s.id }));
  if (needs !== undefined && !has(needs)) return [];
  return [make("", 0, template.measures === "ladder" || template.measures === "cut" ? { kind: template.measures } : undefined)];
}

function faultsOf(
  ground: Ground,
  template: FaultTemplate,
  tiltOf: (station: string) => Tilt | undefined,
  known: ReadonlySet<string>,
): FaultSpec[] {
  const { has, fits, mirrors, head } = ground;
  const repeated = isForEach(template.station);
  const own = (id: string, k: number) => (repeated ? forMirror(id, k) : id);
  const numbers = template.station === "mirror@k" ? mirrors : template.station === "aim@k" ? [0, ...mirrors] : [0];
  return numbers.flatMap((k) => {
    const station = placeOf(ground, template.station, k);
    if (!has(station) || !fits(template.when, station)) return [];
    const tilt = template.tilts ? tiltOf(station) : undefined;
    return [
      {
        id: own(template.id, k),
        station,
        lossAt: template.lossAt === undefined ? undefined : placeOf(ground, template.lossAt, k),
        ...lossOf(template, tilt),
        movesBeam: template.movesBeam ?? false,
        baseRate: atPlace(template.baseRate, repeated && k === head, k === 0),
        reason: template.reason,
        heavyShare: template.heavyShare ?? 0.4,
        usage: usageOf(ground, template, station),
        symptoms: template.symptoms,
        effects: effectsOf(ground, template, k, tilt, known),
        repair: own(template.repair, k),
        mendedBy: template.mendedBy?.map((r) => own(r, k)),
      },
    ];
  });
}

function placeOf({ after }: Ground, template: string, k: number): string {
  if (template === "mirror@k" || (template === "aim@k" && k > 0)) return `mirror-${k}`;
  if (template === "aim@k") return "tube";
  if (template !== "next") return template;
  const [next] = after(k);
  return next === undefined ? "lens" : `mirror-${next}`;
}

function lossOf(template: FaultTemplate, tilt: Tilt | undefined): Pick<FaultSpec, "loss" | "lossSd" | "cutGain"> {
  const loss = template.loss ?? tilt?.loss ?? USUAL_LOSS;
  // What takes no light takes none with certainty.
  const usual: BySeverity<number> = loss.every((l) => l === 0) ? [0, 0] : USUAL_SD;
  return {
    loss,
    lossSd: template.lossSd ?? (tilt ? [TILT_SCATTER * loss[0], TILT_SCATTER * loss[1]] : usual),
    cutGain: template.cutGain ?? tilt?.cutGain ?? 1,
  };
}

function usageOf({ layout }: Ground, template: FaultTemplate, station: string): UsageDriver | undefined {
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
}

/** How a fault shows in the checks this machine has. */
function effectsOf(
  { layout, after }: Ground,
  template: FaultTemplate,
  k: number,
  tilt: Tilt | undefined,
  known: ReadonlySet<string>,
): FaultSpec["effects"] {
  const effects: Record<string, readonly Effect[]> = {};
  const targetsOf = (key: string): string[] => {
    const { base, at } = parseId(key);
    if (at === "after") return after(k).map((j) => idAt(base, j));
    return at === "next"
      ? after(k)
          .slice(0, 1)
          .map((j) => idAt(base, j))
      : [forMirror(key, k)];
  };
  for (const [key, effect] of Object.entries(template.effects)) {
    const shownAt = (target: string): readonly Effect[] => {
      if (!("kind" in effect)) return effect;
      if (effect.kind !== "mark") return [effect];
      return tilt ? markShown(effect, tilt, `mirror-${parseId(target).mirror}`) : [];
    };
    for (const target of targetsOf(key)) if (known.has(target)) effects[target] = shownAt(target);
  }
  if (template.bedMapByTravel) {
    // Legs behind it that grow with travel, two counting as all.
    const legs = Math.min(2, after(k).filter((j) => layout.movingMirrors.includes(j)).length);
    const isOnlyLeg = layout.movingMirrors.length === 1 && legs === 1;
    effects["bed-map"] = [template.bedMapByTravel[isOnlyLeg ? 3 : legs] as Effect];
  }
  return effects;
}

function repairsOf({ fits, mirrors, head }: Ground, template: RepairTemplate, checks: readonly CheckSpec[]): RepairSpec[] {
  const make = (id: string, atHead: boolean, k = 0): RepairSpec => {
    const opens = openedAt(template.opens, k);
    return {
      id,
      minutes: atPlace(template.minutes, atHead),
      opens,
      openingMinutes: openingOf(checks, opens),
      madeSafe: template.madeSafe ?? true,
      proofMinutes: template.proofMinutes ?? PROOF_MINUTES,
      needlessMinutes: template.needlessMinutes ?? NEEDLESS_MINUTES,
      movesBeam: template.movesBeam ?? false,
    };
  };
  if (!isForEach(template.id)) return fits(template.when, template.opens ?? template.needs ?? "") ? [make(template.id, false)] : [];
  const from = template.needs === "aim" ? [0, ...mirrors] : mirrors;
  return from
    .filter((k) => fits(template.when, k === 0 ? "tube" : `mirror-${k}`))
    .map((k) => make(forMirror(template.id, k), k === head, k));
}

/** What opening a station takes: a look at it takes so much less where it is open already. */
function openingOf(checks: readonly CheckSpec[], station: string | undefined): number {
  const looks = checks.filter((c) => station !== undefined && c.needsOpen === station);
  return looks.length === 0 ? 0 : Math.min(...looks.map((c) => c.minutes - (c.minutesOpened ?? c.minutes)));
}
