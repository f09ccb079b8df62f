/** View model of one round: its steps while it is open, and once it ended what it found, did and bought. */

import type { Grade } from "#core/beam";
import { logOf } from "#core/events";
import { furthest, gradeWordFor, isServed, nextStep, type RoundPlan, walkOf } from "#core/rounds";
import { findCase, listFindings } from "#store/cases";
import { recordsOfRound } from "#store/events";
import { findRound, type Round } from "#store/rounds";
import { everFound } from "../cases/caseInput";
import { checkText } from "../cases/words";
import type { Services } from "../context";
import { ladderMaterials } from "../log/options";
import { CUT_WORDS } from "../log/words";
import type { Gathered } from "../machine/gathered";
import { readingOf } from "../machine/ladders";
import { planOfRound } from "../machine/plans";
import { unmendedOf } from "../machine/unmended";
import { usualSetPercent } from "../machine/usual";
import { NotHere } from "../refusal";
import { fillWords } from "../sums/coolantView";
import { washView } from "../sums/washView";
import { withUnit } from "../units";
import { boundWords, materialName, number, ratioWords, shortDay, theStation } from "../words";
import { bought, failedCheck } from "./close";

/** Throws NotHere for a round that is not this machine's. `asked` is the step to show; the next one to answer without it. */
export async function roundView(services: Services, g: Gathered, roundId: number | undefined, asked: string | null) {
  const round = await roundOf(services, g.machine.id, roundId);
  const plan = planOfRound(g.trade, round);
  const roundCase = round.caseId === undefined ? undefined : await findCase(services.store, g.machine.id, round.caseId);
  const findings = roundCase ? everFound(g, roundCase, await listFindings(services.store, roundCase.id)) : [];
  const failed = failedCheck(g, findings);
  const walk = walkOf(plan.steps, round.answers);
  const first = walk[Math.min(walk.length - 1, nextStep(walk, round.answers))]?.id;
  // A step asked for by its address is shown as far as the walk leads there by now.
  const wanted = walk.findIndex((s) => s.id === asked);
  const at = wanted >= 0 && wanted <= furthest(walk, round.answers) ? asked : first;
  return {
    slug: g.machine.slug,
    id: round.id,
    title: round.title,
    status: round.status,
    caseId: round.caseId,
    steps: plan.steps,
    fetch: plan.fetch,
    manual: g.trade.layout.fittings.manual,
    /** What this machine's own sums say at a step. */
    figures: figuresOf(g, plan),
    answers: Object.fromEntries(round.answers),
    at: Math.max(
      0,
      plan.steps.findIndex((s) => s.id === at),
    ),
    apart: plan.apart,
    /** Grades that held before this round, and what was out that it puts nothing in for. */
    before: Object.fromEntries(g.gradesBefore),
    outBefore: [...g.out.keys()].find((station) => !plan.steps.some((s) => s.leaves?.back === station)),
    /** What the parts are called where one must not be fired through. */
    names: Object.fromEntries(g.trade.layout.stations.map((s) => [s.id, theStation(g.trade.layout.names[s.id] ?? s.id)])),
    // With a new part "of best" means nothing until it is measured anew.
    asksBaseline:
      g.baseline === undefined || plan.steps.some((s) => s.service?.what === "replaced" && isServed(s, round.answers.get(s.id))),
    materials: ladderMaterials(g),
    firstLadder: g.log.kinds.ladder.length === 0,
    pieces: g.materials
      .filter((m) => !m.hidden && m.usualSpeedMmPerS !== undefined)
      .map((m) => ({
        id: m.id,
        label: `${materialName(m)}, ${withUnit(m.usualSpeedMmPerS as number, "mm/s")} at ${number(usualSetPercent(m), 0)} %`,
      })),
    repeat:
      failed === undefined
        ? undefined
        : { check: failed, question: checkText(g.trade, failed).question, outcomes: checkText(g.trade, failed).outcomes },
    summary: round.status === "open" ? undefined : await summaryOf(services, g, round, plan, roundCase?.closedMs !== undefined),
  };
}

/** Litres for this loop, and for this bed, at the steps that pour them. */
function figuresOf(g: Gathered, { steps }: RoundPlan): Readonly<Record<string, string>> {
  const says: Readonly<Record<string, () => string | undefined>> = {
    "coolant-change.fill": () => fillWords(g),
    "bed.soap": () => washView(g, new URLSearchParams()).lead,
  };
  return Object.fromEntries(
    steps.flatMap(({ id }) => {
      const words = Object.hasOwn(says, id) ? says[id]?.() : undefined;
      return words === undefined ? [] : [[id, words]];
    }),
  );
}

/** What an ended round found, did and bought. */
async function summaryOf(services: Services, g: Gathered, round: Round, plan: RoundPlan, caseClosed: boolean) {
  const records = await recordsOfRound(services.store, round.id);
  const own = logOf(records.map((r) => r.record));
  const ladder = own.kinds.ladder.at(-1);
  const proof = ladder && readingOf(g, ladder);
  const piece = own.kinds.cut.at(-1);
  const gain = proof && bought(g, proof.event.payload, proof.event.atMs);
  return {
    day: shortDay(round.startedMs, g.nowMs),
    minutes: round.endedMs === undefined ? "" : number((round.endedMs - round.startedMs) / 60_000, 0),
    proof: proof
      ? `${ratioWords(proof.effective)}${boundWords(proof.effective)}`
      : piece &&
        `a circle and a square in ${materialName(g.materials.find((m) => m.id === piece.payload.materialId))}: ${CUT_WORDS[piece.payload.result]}`,
    isBaseline: proof?.event.payload.baseline === true,
    gain: gain && {
      headline: gain.effective.kind === "ratio" ? gainHeadline(gain.effective) : "The round is closed.",
      words:
        gain.effective.kind === "ratio"
          ? gainWords(gain.effective)
          : ratioWords(gain.effective).replace(" of best", " of the ladder before"),
      before: shortDay(gain.atMs, g.nowMs),
    },
    grades: Array.from(own.kinds.grade, (e) => ({
      id: e.id,
      part: g.trade.layout.names[e.payload.station] ?? e.payload.station,
      phase: e.payload.phase === "as-left" ? "after cleaning" : "before cleaning",
      grade: e.payload.grade as Grade,
      word: e.payload.seen ?? gradeWordFor(e.payload.station, e.payload.grade as Grade),
      photos: e.payload.photos ?? [],
    })),
    services: own.kinds.service.length,
    /** Where other work makes dust, the sheet goes over it once it is cold. */
    dustSheet: g.trade.layout.fittings.room === "dusty",
    otherPhotos: plan.steps.flatMap((s) => (s.kind === "grade" ? [] : (round.answers.get(s.id)?.photos ?? []))),
    skipped: plan.steps.flatMap((s) => {
      const why = round.answers.get(s.id)?.skipped;
      return why ? [{ id: s.id, title: s.title, why }] : [];
    }),
    // What it saw bad and nobody has mended since.
    bad: unmendedOf(g).filter((u) => [...own.kinds.grade].some((e) => e.payload.station === u.station)),
    notes: notesOf(plan, round),
    by: [...new Set([...round.answers.values()].flatMap((a) => (a.by ? [a.by] : [])))],
    caseClosed,
    late: cameLate(g, records),
  };
}

/** A round of a machine. Throws NotHere. */
export async function roundOf(services: Services, machineId: number, roundId: number | undefined): Promise<Round> {
  const round = roundId === undefined ? undefined : await findRound(services.store, machineId, roundId);
  if (!round) throw new NotHere("There is no such round on this machine.");
  return round;
}

/** Grades of this round that came in after its end, over what it was closed with. */
function cameLate(g: Gathered, records: Awaited<ReturnType<typeof recordsOfRound>>): { id: number; words: string }[] {
  const first = new Map(records.map(({ record }) => [record.id, record]));
  return records.flatMap(({ record: e, late }) => {
    const before = e.corrects === undefined ? undefined : first.get(e.corrects);
    if (!late || e.kind !== "grade" || before?.kind !== "grade" || e.payload.grade === before.payload.grade) return [];
    const part = g.trade.layout.names[e.payload.station] ?? e.payload.station;
    const phase = e.payload.phase === "as-left" ? "after cleaning" : "before cleaning";
    return [
      {
        id: e.id,
        words: `${part}, ${phase}: ${gradeWordFor(e.payload.station, e.payload.grade as Grade)}, given on a device that was offline. The round was closed with ${gradeWordFor(e.payload.station, before.payload.grade as Grade)}.`,
      },
    ];
  });
}

/** Notes given to steps, with the step they belong to. */
function notesOf(plan: RoundPlan, round: Round): { id: string; title: string; note: string }[] {
  return plan.steps.flatMap((s) => {
    const note = round.answers.get(s.id)?.note;
    return note ? [{ id: s.id, title: s.title, note }] : [];
  });
}

const points = (ratio: number) => Math.round(100 * (ratio - 1));

/** What a round gained or lost, in one sentence. */
function gainHeadline(e: { ratio: number }): string {
  const n = points(e.ratio);
  if (n === 0) return "The round changed the power by less than 1 %.";
  return n > 0 ? `The round gained about ${n} % of power.` : `After the round it has about ${-n} % less power.`;
}

/** What a round gained, with its range in plain words. */
function gainWords(e: { ratio: number; low: number; high: number }): string {
  const signed = (n: number) => (n > 0 ? `+${n}` : `${n}`.replace("-", "−"));
  return `about ${signed(points(e.ratio))} % of power (between ${signed(points(e.low))} and ${signed(points(e.high))})`;
}
