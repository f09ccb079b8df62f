/** One round: while it is open its steps, once ended what it found, did and bought. Its answers have a route of their own. */
import { data, redirect } from "react-router";
import { GRADES, type Grade } from "#core/beam";
import { type EventPayload, eventsOf } from "#core/events";
import { nextStep } from "#core/rounds";
import { listFindings } from "#store/cases";
import { findRound, type Round } from "#store/rounds";
import { readEntry } from "../log/entries";
import { ladderMaterials } from "../log/options";
import { trouble } from "../server/forms";
import { recordId, saving, sentAs } from "../server/saving";
import { caseFindings } from "../trace/caseInput";
import { checkText } from "../trace/words";
import { sendKept } from "../ui/sending";
import { type Gathered, gather, gatherOnce } from "../workshop/gather";
import { planOfRound } from "../workshop/trade";
import { materialName, number, ratioWords, shortDay, theStation } from "../workshop/words";
import type { Route } from "./+types/run";
import { bought, closeRound, endWithoutProof, failedCheck, type RoundProof } from "./close";
import { Runner } from "./Runner";
import { Summary } from "./Summary";

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const round = await findRound(context.store, g.machine.id, recordId(params.roundId) ?? 0);
  if (!round) throw data("There is no such round on this machine.", { status: 404 });
  const plan = planOfRound(g.trade, round);
  const proof = g.ladders.find((l) => l.event.roundId === round.id);
  const piece = eventsOf(g.events, "cut").find((e) => e.roundId === round.id);
  const roundCase = g.cases.find((c) => c.id === round.caseId);
  const findings = roundCase ? caseFindings(g, roundCase, await listFindings(context.store, roundCase.id)) : [];
  const failed = failedCheck(g, findings);
  const asked = new URL(request.url).searchParams.get("step");
  const first = nextStep(plan.steps, round.answers);
  const at = asked === null ? first : plan.steps.findIndex((s) => s.id === asked);
  const gain = proof && bought(g, proof.event.payload, proof.event.atMs);
  return {
    slug: g.machine.slug,
    id: round.id,
    title: round.title,
    status: round.status,
    caseId: round.caseId,
    steps: plan.steps,
    fetch: plan.fetch,
    answers: Object.fromEntries(round.answers),
    nowMs: context.now,
    at: Math.min(Math.max(0, at), plan.steps.length - 1),
    minutes: plan.minutes,
    materials: ladderMaterials(g),
    pieces: g.materials
      .filter((m) => !m.hidden && m.usualSpeedMmPerS !== undefined)
      .map((m) => ({
        id: m.id,
        label: `${materialName(m)}, ${number(m.usualSpeedMmPerS as number)} mm/s at ${number(m.usualSetPercent ?? 60, 0)} %`,
      })),
    repeat: failed && { check: failed, question: checkText(g.trade, failed).question, outcomes: checkText(g.trade, failed).outcomes },
    summary:
      round.status === "open"
        ? undefined
        : {
            day: shortDay(round.startedMs),
            minutes: round.endedMs === undefined ? "" : number((round.endedMs - round.startedMs) / 60_000, 0),
            proof: proof
              ? ratioWords(proof.effective)
              : piece &&
                `a circle and a square in ${materialName(g.materials.find((m) => m.id === piece.payload.materialId))}: ${PIECE_WORDS[piece.payload.result]}`,
            isBaseline: proof?.event.payload.baseline === true,
            gain: gain && {
              words:
                gain.effective.kind === "ratio"
                  ? gainWords(gain.effective)
                  : ratioWords(gain.effective).replace(" of best", " of the ladder before"),
              before: shortDay(gain.atMs),
            },
            grades: eventsOf(g.events, "grade")
              .filter((e) => e.roundId === round.id)
              .map((e) => ({
                id: e.id,
                part: g.trade.layout.names[e.payload.station] ?? e.payload.station,
                phase: e.payload.phase as string,
                grade: e.payload.grade as Grade,
                photos: e.payload.photos ?? [],
              })),
            services: eventsOf(g.events, "service").filter((e) => e.roundId === round.id).length,
            otherPhotos: plan.steps.flatMap((s) => (s.kind === "grade" ? [] : (round.answers.get(s.id)?.photos ?? []))),
            skipped: plan.steps.flatMap((s) => {
              const why = round.answers.get(s.id)?.skipped;
              return why ? [{ id: s.id, title: s.title, why }] : [];
            }),
            toClean: round.status === "abandoned" ? [] : foundDirty(g, round.id),
            by: [...new Set([...round.answers.values()].flatMap((a) => (a.by ? [a.by] : [])))],
            caseClosed: roundCase?.closedMs !== undefined,
            late: cameLate(g, round),
            key: context.freshKey(),
            also: ALSO_WORDS.get(new URL(request.url).searchParams.get("also")),
          },
    key: context.freshKey(),
  };
}

const ALSO_WORDS: ReadonlyMap<string | null, string> = new Map([
  ["ladder", "This round had been closed on another device just before. Your ladder was not taken as its proof: it is in the log."],
  ["piece", "This round had been closed on another device just before. Your test piece was not taken as its proof: it is in the log."],
  [
    "repeat",
    "This round had been closed on another device just before. Your repeated test was not taken as its proof; it is with the case where that is still open.",
  ],
]);

/** Grades of this round that came in after its end, over what it was closed with. */
function cameLate(g: Gathered, round: Round): { id: number; words: string }[] {
  const first = new Map(g.history.map((e) => [e.id, e]));
  return g.history.flatMap((e) => {
    const before = e.corrects === undefined ? undefined : first.get(e.corrects);
    if (e.kind !== "grade" || e.roundId !== round.id || before?.kind !== "grade" || e.payload.grade === before.payload.grade) return [];
    const part = g.trade.layout.names[e.payload.station] ?? e.payload.station;
    const phase = e.payload.phase === "as-left" ? "as left" : "as found";
    return [
      {
        id: e.id,
        words: `${part}, ${phase}: ${GRADES[e.payload.grade]}, given on a device that was offline. The round was closed with ${GRADES[before.payload.grade]}.`,
      },
    ];
  });
}

/** Parts this round found with film or worse and did not clean. */
function foundDirty(g: Gathered, roundId: number): { part: string; name: string; word: string }[] {
  const own = eventsOf(g.events, "grade").filter((e) => e.roundId === roundId);
  return own
    .filter(
      (e) => e.payload.phase === "as-found" && e.payload.grade >= 2 && e.payload.grade < 4 && g.trade.procedures.has(e.payload.station),
    )
    .filter((e) => !own.some((o) => o.payload.station === e.payload.station && o.payload.phase === "as-left"))
    .map((e) => ({
      part: e.payload.station,
      name: theStation(g.trade.layout.names[e.payload.station] ?? e.payload.station),
      word: GRADES[e.payload.grade] as string,
    }));
}

const PIECE_WORDS = {
  through: "dropped through",
  hangs: "it hangs",
  "part-through": "part of the way",
  "surface-only": "only the surface",
} as const;

/** What a round bought, with its range in plain words. */
function gainWords(e: { ratio: number; low: number; high: number }): string {
  const points = (r: number) => Math.round(100 * (r - 1));
  const signed = (n: number) => (n > 0 ? `+${n}` : `${n}`.replace("-", "−"));
  return `about ${signed(points(e.ratio))} % effective power, somewhere in ${signed(points(e.low))} to ${signed(points(e.high))}`;
}

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const g = await gather(context, params.machine);
  const round = await findRound(context.store, g.machine.id, recordId(params.roundId) ?? 0);
  if (!round) throw data("There is no such round on this machine.", { status: 404 });
  const here = `/${params.machine}/round/${round.id}`;
  const sent = sentAs(`round end ${round.id}`, reader);
  const close = async (proof: RoundProof) => {
    const became = await closeRound(context, params.machine, round, proof, sent);
    return redirect(became === "closed" ? here : `${here}?also=${proof.kind}`);
  };
  const intent = reader.text("intent");
  if (intent === "ladder") {
    const entry = readEntry("ladder", reader, g, g.nowMs);
    if (!entry.ok) return data(trouble(reader, entry.errors), { status: 400 });
    return close({ kind: "ladder", ladder: entry.payload as EventPayload["ladder"] });
  }
  if (intent === "piece") {
    const material = g.materials.find((m) => String(m.id) === reader.text("pieceMaterialId"));
    const result = reader.text("pieceResult") as EventPayload["cut"]["result"] | undefined;
    if (!material?.usualSpeedMmPerS || !result || !Object.hasOwn(PIECE_WORDS, result))
      return data(trouble(reader, { piece: "Say in which material, and how it went." }), { status: 400 });
    return close({
      kind: "piece",
      cut: {
        materialId: material.id,
        speedMmPerS: material.usualSpeedMmPerS,
        setPercent: material.usualSetPercent ?? 60,
        result,
        note: "small circle and square, proof of a round",
      },
    });
  }
  if (intent === "repeat") {
    const outcome = reader.text("outcome");
    const roundCase = g.cases.find((c) => c.id === round.caseId);
    const failed = roundCase && failedCheck(g, caseFindings(g, roundCase, await listFindings(context.store, roundCase.id)));
    const spec = g.trade.model.checks.find((c) => c.id === failed);
    if (!spec || spec.id !== reader.text("check"))
      return data(trouble(reader, { "": "That is not the test that failed. Close the round with a ladder or a test piece." }), {
        status: 400,
      });
    if (!outcome || !spec.outcomes.includes(outcome))
      return data(trouble(reader, { outcome: "Say how it went this time." }), { status: 400 });
    return close({ kind: "repeat", check: spec.id, outcome });
  }
  const why = reader.text("why");
  if (!why) return data(trouble(reader, { why: "Say why in a few words: the log keeps it." }), { status: 400 });
  await endWithoutProof(context, params.machine, round, why);
  return redirect(here);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

export default function Run({ loaderData, actionData }: Route.ComponentProps) {
  const { slug, id, title, status, caseId, summary } = loaderData;
  if (summary) return <Summary slug={slug} title={title} status={status} caseId={caseId} summary={summary} />;
  const failed =
    actionData && "errors" in actionData
      ? { errors: actionData.errors as Record<string, string>, typed: actionData.typed as Record<string, string> }
      : undefined;
  return <Runner key={id} data={loaderData} failed={failed} />;
}
