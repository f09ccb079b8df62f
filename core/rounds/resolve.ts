import { type Matrix, mayUse } from "#core/agents";
import type { EventPayload } from "#core/events";
import { type Condition, type Fitted, holds, nameInSentence, type PathStation, type Placed, staysInPlace } from "#core/machine";
import { mends } from "#core/schedule";
import type { Area, Need, Procedure, Step, StepAgent, StepKind, StepLeaves, StepNeeds } from "./step";

/** A step as the catalog writes it, for any machine. */
export interface StepSpec extends Pick<Step, Same> {
  readonly kind?: StepKind;
  readonly when?: Condition;
  /** Surface under the hand, or `@own` for the station's. */
  readonly surface?: string;
  /** Each group: agents that do the same, best first. */
  readonly agents?: readonly (readonly string[])[];
  /** Conditions of the matrix that hold at this step, e.g. `lens-out`. */
  readonly meets?: readonly string[];
  /** Station or system it is logged under; the procedure's own when left out. */
  readonly station?: string;
  readonly service?: EventPayload["service"]["what"];
  readonly task?: string;
  /** Steps of the same procedure by their own ids; any of them asks for this one. */
  readonly asked?: readonly Need[];
  /** `@own` stands for the station. Work on a machine that is taken apart wants it unplugged, what is done running wants it powered. */
  readonly needs?: StepNeeds;
  readonly leaves?: StepLeaves;
}

/** What a step says as it was written. */
type Same =
  | "id"
  | "title"
  | "text"
  | "minutes"
  | "caution"
  | "tools"
  | "supplies"
  | "timer"
  | "drawing"
  | "byAim"
  | "reading"
  | "phase"
  | "tick"
  | "seen"
  | "last"
  | "gear"
  | "rinses"
  | "unseen"
  | "anyway";

export interface ProcedureSpec {
  readonly id: string;
  readonly name: string;
  readonly area: Area;
  /** Station or system it is logged under; `@station` for that of its part. */
  readonly station: string;
  readonly opensHead?: boolean;
  readonly opensSeat?: boolean | Condition;
  readonly lowPower?: boolean;
  readonly movesAir?: boolean;
  readonly lensOut?: boolean;
  readonly provenBy?: "block";
  /** Of a system's things: what else mends what is seen here besides its own work. */
  readonly mendedBy?: readonly string[];
  readonly when?: Condition;
  /** What its steps want of the power, where its area does not say it. */
  readonly power?: "off" | "on" | "any";
  readonly steps: readonly StepSpec[];
}

/** The machine a procedure is made ready for. */
export interface Situation extends Fitted {
  /** Bore of the nozzle as this workshop reads it. */
  readonly boreWords?: string;
  readonly matrix: Matrix;
  /** What is dangerous about the tube's supply, by the kind of tube. */
  readonly supplyWords: string;
  /** Surface of a station, by what it is and is made of. */
  readonly surfaceOf: (station: PathStation) => string;
}

/** The part it is made ready for: a station of the path, or nothing for systems. */
export interface Subject extends Placed {
  readonly part: string;
  readonly name: string;
}

/** Agents for a step: of each group the first the owner has, among those the matrix lets touch the surface. Throws on a group it refuses whole. */
export function chooseAgents(spec: StepSpec, surface: string | undefined, situation: Situation): StepAgent[] {
  const owned = situation.fittings.agents;
  return (spec.agents ?? []).map((group) => {
    const fit = group.flatMap((id) => {
      const agent = situation.matrix.agents.find((a) => a.id === id);
      if (!agent) throw new RangeError(`no agent ${id}`);
      if (surface === undefined) return [{ id, name: agent.name, how: agent.care ?? "" }];
      const ruling = mayUse(situation.matrix, surface, id);
      const ok = ruling.verdict === "allowed" || (ruling.verdict === "only-if" && spec.meets?.includes(ruling.needs ?? ""));
      return ok ? [{ id, name: agent.name, how: ruling.reason }] : [];
    });
    const best = fit.find((a) => owned?.includes(a.id)) ?? fit[0];
    if (!best) throw new RangeError(`step ${spec.id}: nothing of ${group.join(", ")} may touch ${surface}`);
    return owned !== undefined && !owned.includes(best.id) ? { ...best, missing: true } : best;
  });
}

const REFUSALS_SHOWN = 4;

/** What the catalog's texts leave open, told of one part of one machine. What is not known leaves nothing behind. */
function wordsFor(situation: Situation, { name, station }: Subject): (text: string) => string {
  const open: Readonly<Record<string, string>> = {
    "{part}": name,
    "{Part}": name,
    "{the part}": nameInSentence(name),
    ...(station
      ? {
          "{panel}": station.panel ?? "no panel",
          "{how}": station.comesOff ? `Yours: ${station.comesOff}.` : "",
        }
      : {}),
    "{way}": station?.wayRound ? `Yours: ${station.wayRound}.` : "",
    "{place}": station?.toolPlace ? `Where to find it: ${station.toolPlace}.` : "",
    "{bore}": Number.isFinite(situation.boreMm) ? (situation.boreWords ?? `${situation.boreMm} mm`) : "",
    "{supply}": situation.supplyWords,
  };
  return (text) =>
    text.includes("{") || text.includes("  ")
      ? text
          .replace(/\{[A-Za-z ]+\}/g, (gap) => open[gap] ?? gap)
          .replace(/ {2,}/g, " ")
          .trim()
      : text.trim();
}

/** What must be so before the step, and what it leaves behind, of the part's own station where it says `@own`. */
function stateOf(spec: StepSpec, own: (part: string) => string, power: StepNeeds["power"], hasAgents: boolean) {
  const lensOut = spec.meets?.includes("lens-out") === true;
  const needs: StepNeeds = {
    ...(power ? { power } : {}),
    ...spec.needs,
    ...(spec.needs?.in ? { in: spec.needs.in.map(own) } : {}),
    ...(spec.needs?.out || (lensOut && hasAgents) ? { out: [...(spec.needs?.out ?? []).map(own), ...(lensOut ? ["lens"] : [])] } : {}),
  };
  const leaves: StepLeaves | undefined = spec.leaves && {
    ...spec.leaves,
    ...(spec.leaves.out ? { out: own(spec.leaves.out) } : {}),
    ...(spec.leaves.back ? { back: own(spec.leaves.back) } : {}),
    ...(spec.leaves.toward ? { toward: own(spec.leaves.toward) } : {}),
  };
  return { ...(Object.keys(needs).length > 0 ? { needs } : {}), ...(leaves ? { leaves } : {}) };
}

/** What the hands take up for it, what stays away from it, and what protects them. */
function handled(spec: StepSpec, surface: string | undefined, situation: Situation) {
  const { agents: known, surfaces } = situation.matrix;
  const rules = surfaces.find((s) => s.id === surface);
  if (surface !== undefined && !rules) throw new RangeError(`step ${spec.id}: no surface ${surface}`);
  const agents = chooseAgents(spec, surface, situation);
  const used = agents.flatMap((a) => known.find((k) => k.id === a.id) ?? []);
  const refused = Object.entries(rules?.never ?? {})
    .slice(0, REFUSALS_SHOWN)
    .map(([id, because]) => ({ name: known.find((a) => a.id === id)?.name ?? id, because }));
  const gear = [...new Set([...(spec.gear ?? []), ...used.flatMap((a) => a.gear ?? [])])];
  return {
    ...(surface ? { surface } : {}),
    ...(agents.length > 0 ? { agents } : {}),
    ...(refused.length > 0 ? { refused } : {}),
    ...(used.some((a) => a.flammable) ? { wet: true } : {}),
    ...(gear.length > 0 ? { gear } : {}),
  };
}

/** Of what a step says of itself, what it takes over as it was written. */
const AS_WRITTEN = ["phase", "supplies", "timer", "drawing", "byAim", "reading", "tick", "last", "rinses", "unseen", "anyway"] as const;

function asWritten(spec: StepSpec): Partial<Pick<StepSpec, (typeof AS_WRITTEN)[number]>> {
  return Object.fromEntries(AS_WRITTEN.flatMap((key) => (spec[key] ? [[key, spec[key]]] : [])));
}

/** A step of the catalog as it stands on one machine. */
export function resolveStep(
  spec: StepSpec,
  situation: Situation,
  subject: Subject,
  prefix: string,
  station: string | undefined,
  power?: StepNeeds["power"],
): Step {
  const own = subject.station;
  const surface = spec.surface === "@own" ? own && situation.surfaceOf(own) : spec.surface;
  const words = wordsFor(situation, subject);
  const itself = (part: string) => (part === "@own" ? (own?.id ?? subject.part) : part);
  const hands = handled(spec, surface, situation);
  const at = spec.station ?? station;
  // A station of the path has one service; of a system several tasks are kept apart.
  const task = spec.task ?? (prefix !== "" && !own ? subject.part : undefined);
  return {
    id: `${prefix}${spec.id}`,
    part: words(subject.name),
    kind: spec.kind ?? "do",
    title: words(spec.title),
    text: words(spec.text),
    minutes: spec.minutes,
    ...(at ? { station: at } : {}),
    ...(at && !own ? { thing: prefix === "" ? spec.id : subject.part } : {}),
    ...asWritten(spec),
    ...hands,
    ...stateOf(spec, itself, power, hands.agents !== undefined),
    ...(spec.caution ? { caution: words(spec.caution) } : {}),
    ...(spec.tools ? { tools: spec.tools.map(words) } : {}),
    ...(spec.seen ? { seen: spec.seen.map((o) => (o.leavesOut ? { ...o, leavesOut: itself(o.leavesOut) } : o)) } : {}),
    ...(spec.asked ? { when: spec.asked.map((need) => ({ ...need, step: `${prefix}${need.step}` })) } : {}),
    ...(spec.drawing === "notch" && own?.wayRoundPhoto ? { photos: [own.wayRoundPhoto] } : {}),
    ...(spec.service ? { service: { what: spec.service, ...(task ? { task } : {}) } } : {}),
  };
}

const powerFor = ({ power, area }: ProcedureSpec): StepNeeds["power"] =>
  power === "any" ? undefined : (power ?? (area === "running" ? "on" : "off"));

/** A procedure of the catalog as it stands on one machine; undefined where it does not apply. */
export function resolveProcedure(spec: ProcedureSpec, situation: Situation, subject: Subject): Procedure | undefined {
  if (!holds(spec.when, situation, subject)) return undefined;
  const s = subject.station;
  const station = spec.station === "@station" ? s?.id : spec.station;
  const ownWork = spec.steps.flatMap((step) => (step.service && mends(step.service) ? [step.task ?? subject.part] : []));
  const mendedBy = s ? [] : [...new Set([...ownWork, ...(spec.mendedBy ?? [])])];
  const opensSeat = typeof spec.opensSeat === "object" ? holds(spec.opensSeat, situation, subject) : spec.opensSeat === true;
  return {
    id: subject.part,
    name: spec.name.includes("{")
      ? spec.name.replaceAll("{part}", subject.name).replaceAll("{the part}", nameInSentence(subject.name))
      : subject.name,
    area: spec.area,
    station: s?.id,
    access: s && { panel: s.panel, keys: s.keys, gantry: s.gantry, how: s.comesOff, screws: s.screws },
    opensHead: spec.opensHead,
    atHead: subject.isHead,
    opensSeat: opensSeat ? (s && !staysInPlace(s) ? "keeps-aim" : "loses-aim") : undefined,
    lensOut: spec.lensOut,
    provenBy: spec.provenBy,
    lowPower: spec.lowPower === true,
    ...(spec.movesAir ? { movesAir: true } : {}),
    steps: spec.steps
      .filter((step) => holds(step.when, situation, subject))
      .map((step) => resolveStep(step, situation, subject, `${subject.part}.`, station, powerFor(spec)))
      .map((step) => (step.thing !== undefined && mendedBy.length > 0 ? { ...step, mendedBy } : step)),
  };
}
