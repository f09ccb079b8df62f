/** One round: while it is open its steps, once ended what it found, did and bought. Its answers have a route of their own. */
import { randomUUID } from "node:crypto";
import { data, redirect } from "react-router";
import { GRADES, type Grade } from "#core/beam";
import { type EventPayload, eventsOf } from "#core/events";
import { nextStep } from "#core/rounds";
import { listFindings } from "#store/cases";
import { endRound, findRound } from "#store/rounds";
import { readEntry } from "../log/entries";
import { ladderMaterials } from "../log/options";
import { FormReader, trouble } from "../server/forms";
import { caseFindings } from "../trace/caseInput";
import { checkText } from "../trace/words";
import { type Gathered, gather, gatherOnce } from "../workshop/gather";
import { planOfRound } from "../workshop/trade";
import { materialName, number, ratioWords, shortDay, theStation } from "../workshop/words";
import type { Route } from "./+types/run";
import { bought, closeWithLadder, closeWithPiece, closeWithRepeat, eventsOfRound, failedCheck } from "./close";
import { Runner } from "./Runner";
import { Summary } from "./Summary";

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const round = await findRound(context.store, g.machine.id, Number(params.roundId));
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
    nowMs: g.nowMs,
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
          },
    key: randomUUID(),
  };
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

export async function action({ request, params, context }: Route.ActionArgs) {
  const reader = new FormReader(await request.formData());
  const g = await gather(context, params.machine);
  const round = await findRound(context.store, g.machine.id, Number(params.roundId));
  if (!round) throw data("There is no such round on this machine.", { status: 404 });
  const here = `/${params.machine}/round/${round.id}`;
  if (round.status !== "open") return redirect(here);
  const intent = reader.text("intent");
  if (intent === "ladder") {
    const entry = readEntry("ladder", reader, g, g.nowMs);
    if (!entry.ok) return data(trouble(reader, entry.errors), { status: 400 });
    await closeWithLadder(context, params.machine, round, entry.payload as EventPayload["ladder"]);
    return redirect(here);
  }
  if (intent === "piece") {
    const material = g.materials.find((m) => String(m.id) === reader.text("pieceMaterialId"));
    const result = reader.text("pieceResult") as EventPayload["cut"]["result"] | undefined;
    if (!material?.usualSpeedMmPerS || !result || !(result in PIECE_WORDS))
      return data(trouble(reader, { piece: "Say in which material, and how it went." }), { status: 400 });
    await closeWithPiece(context, params.machine, round, {
      materialId: material.id,
      speedMmPerS: material.usualSpeedMmPerS,
      setPercent: material.usualSetPercent ?? 60,
      result,
      note: "small circle and square, proof of a round",
    });
    return redirect(here);
  }
  if (intent === "repeat") {
    const outcome = reader.text("outcome");
    const checkId = reader.text("check") ?? "";
    const spec = g.trade.model.checks.find((c) => c.id === checkId);
    if (!spec || !outcome || !spec.outcomes.includes(outcome))
      return data({ errors: { outcome: "Say how it went this time." }, typed: {} }, { status: 400 });
    await closeWithRepeat(context, params.machine, round, checkId, outcome);
    return redirect(here);
  }
  const why = reader.text("why");
  if (!why) return data({ errors: { why: "Say why in a few words: the log keeps it." }, typed: {} }, { status: 400 });
  await endRound(
    context.store,
    g.machine.id,
    round.id,
    "abandoned",
    [
      ...eventsOfRound(g, round),
      {
        kind: "note",
        atMs: g.nowMs,
        payload: { note: `“${round.title}” ended without proof: ${why}`.slice(0, 500) },
        requestKey: `round-${round.id}:why`,
      },
    ],
    g.nowMs,
  );
  return redirect(here);
}

export default function Run({ loaderData, actionData }: Route.ComponentProps) {
  const { slug, id, title, status, caseId, summary } = loaderData;
  if (summary) return <Summary slug={slug} id={id} title={title} status={status} caseId={caseId} summary={summary} />;
  const failed =
    actionData && "errors" in actionData
      ? { errors: actionData.errors as Record<string, string>, typed: actionData.typed as Record<string, string> }
      : undefined;
  return <Runner key={id} data={loaderData} failed={failed} />;
}
