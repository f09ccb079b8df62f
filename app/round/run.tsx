/** The round at the machine: one step at a time in big type. Every answer is saved as it is given. */
import { randomUUID } from "node:crypto";
import { useEffect, useRef, useState } from "react";
import { data, Link, redirect, type ShouldRevalidateFunctionArgs, useFetchers, useSubmit } from "react-router";
import { surfaces } from "#catalog/agents";
import type { Grade } from "#core/beam";
import type { EventPayload } from "#core/events";
import { gradeAdvice, isAnswered, mergeAnswer, minutesOf, nextStep, type RoundAnswer, roundAnswerSchema } from "#core/rounds";
import { listFindings } from "#store/cases";
import { endRound, findRound, saveAnswer } from "#store/rounds";
import { readEntry } from "../log/entries";
import { ladderMaterials } from "../log/options";
import { check, FormReader, trouble } from "../server/forms";
import { caseFindings } from "../trace/caseInput";
import { checkText } from "../trace/words";
import { Drawing } from "../ui/Drawing";
import { GradePicker } from "../ui/GradePicker";
import { gather, gatherOnce } from "../workshop/gather";
import { planOf } from "../workshop/trade";
import { number, ratioWords, shortDay } from "../workshop/words";
import type { Route } from "./+types/run";
import { bought, closeWithLadder, closeWithRepeat, eventsOfRound, failedCheck } from "./close";
import { Proof } from "./Proof";
import { StepTimer } from "./StepTimer";
import { Summary } from "./Summary";
import { Way } from "./Way";

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const round = await findRound(context.store, g.machine.id, Number(params.roundId));
  if (!round) throw data("There is no such round on this machine.", { status: 404 });
  const plan = planOf(g.trade, round.parts);
  const answers = Object.fromEntries(round.answers);
  const proof = g.ladders.find((l) => l.event.roundId === round.id);
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
    answers,
    at: Math.min(Math.max(0, at), plan.steps.length - 1),
    refusals: Object.fromEntries(
      plan.steps.flatMap((s) => (s.surface && surfaces[s.surface] ? [[s.id, surfaces[s.surface]?.refused ?? []]] : [])),
    ),
    minutes: plan.minutes,
    materials: ladderMaterials(g),
    repeat: failed && { check: failed, question: checkText(g.trade, failed).question, outcomes: checkText(g.trade, failed).outcomes },
    summary:
      round.status === "open"
        ? undefined
        : {
            day: shortDay(round.startedMs),
            minutes: round.endedMs === undefined ? "" : number((round.endedMs - round.startedMs) / 60_000, 0),
            proof: proof ? ratioWords(proof.effective) : undefined,
            isBaseline: proof?.event.payload.baseline === true,
            gain: gain && {
              words:
                gain.effective.kind === "ratio"
                  ? gainWords(gain.effective)
                  : ratioWords(gain.effective).replace(" of best", " of the ladder before"),
              before: shortDay(gain.atMs),
            },
            grades: plan.steps.flatMap((s) => {
              const a = round.answers.get(s.id);
              return s.kind === "grade" && a?.done && a.grade !== undefined
                ? [{ id: s.id, part: s.part, phase: s.phase ?? "", grade: a.grade as Grade }]
                : [];
            }),
            skipped: plan.steps.flatMap((s) => {
              const why = round.answers.get(s.id)?.skipped;
              return why ? [{ id: s.id, title: s.title, why }] : [];
            }),
            caseClosed: roundCase?.closedMs !== undefined,
          },
    key: randomUUID(),
  };
}

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
  if (intent === "answer") {
    const stepId = reader.text("step") ?? "";
    if (!planOf(g.trade, round.parts).steps.some((s) => s.id === stepId)) throw data("This round has no such step.", { status: 400 });
    let raw: unknown;
    try {
      raw = JSON.parse(reader.text("answer") ?? "");
    } catch {
      throw data("The answer cannot be read.", { status: 400 });
    }
    const checked = check<RoundAnswer>(roundAnswerSchema, { ...(raw as object), atMs: g.nowMs });
    if (!checked.ok)
      return data(
        { errors: { skipped: checked.errors.skipped ? "Say why in a few words." : "This answer cannot be kept." }, typed: {} },
        { status: 400 },
      );
    await saveAnswer(context.store, round.id, stepId, checked.value, reader.requestKey, g.nowMs);
    return { ok: true };
  }
  if (intent === "ladder") {
    const entry = readEntry("ladder", reader, g, g.nowMs);
    if (!entry.ok) return data(trouble(reader, entry.errors), { status: 400 });
    await closeWithLadder(context, params.machine, round, entry.payload as EventPayload["ladder"]);
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

/** An answer to a step changes nothing that the page does not know already; fetching it all again would only slow the hands. */
export function shouldRevalidate({ formData, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs): boolean {
  return formData?.get("intent") === "answer" ? false : defaultShouldRevalidate;
}

export default function Run({ loaderData: loaded, actionData }: Route.ComponentProps) {
  const submit = useSubmit();
  const queue = useRef<Promise<void>>(Promise.resolve());
  const [unsaved, setUnsaved] = useState(0);
  const fetching = useFetchers().some((f) => f.state !== "idle");
  const saving = unsaved > 0 || fetching;
  const [at, setAt] = useState(loaded.at);
  const [given, setGiven] = useState<Readonly<Record<string, RoundAnswer>>>({});
  const [ticked, setTicked] = useState<Readonly<Record<string, boolean>>>({});
  const [skipping, setSkipping] = useState(false);
  const heading = useRef<HTMLHeadingElement>(null);
  const step = loaded.steps[at];
  const answers: Readonly<Record<string, RoundAnswer>> = { ...loaded.answers, ...given };
  const known = step && answers[step.id];
  const grade = known?.grade as Grade | undefined;
  const minutesLeft = minutesOf(loaded.steps.filter((s) => !isAnswered(answers[s.id])));
  const advice =
    step?.kind === "grade" && step.station && step.phase && grade !== undefined ? gradeAdvice(step.station, step.phase, grade) : undefined;
  const needsTick = step?.tick !== undefined && !ticked[step.id] && !known?.done;
  const canGo = step !== undefined && step.kind !== "proof" && !needsTick && (step.kind !== "grade" || grade !== undefined);

  const save = (answer: Omit<RoundAnswer, "atMs">) => {
    if (!step) return;
    const stepId = step.id;
    const requestKey = crypto.randomUUID();
    setGiven((all) => ({ ...all, [stepId]: mergeAnswer(all[stepId] ?? loaded.answers[stepId], { ...answer, atMs: Date.now() }) }));
    setUnsaved((n) => n + 1);
    // One after the other: two answers on their way at once could arrive in the wrong order.
    queue.current = queue.current
      .then(() =>
        submit(
          { intent: "answer", step: stepId, answer: JSON.stringify(answer), requestKey },
          { method: "post", navigate: false, fetcherKey: requestKey },
        ),
      )
      .finally(() => setUnsaved((n) => n - 1));
  };
  const move = (to: number) => {
    setSkipping(false);
    setAt(Math.min(loaded.steps.length - 1, Math.max(0, to)));
    window.scrollTo({ top: 0 });
    heading.current?.focus();
  };
  const done = () => {
    if (!canGo || !step) return;
    save({ done: true, ...(grade !== undefined ? { grade } : {}) });
    move(at + 1);
  };
  const pick = (g: Grade) => {
    if (!step) return;
    // Kept at once: a battery may die between looking and walking on.
    save({ grade: g });
  };

  const keys = useRef({ done, pick, back: () => move(at - 1), kind: step?.kind });
  keys.current = { done, pick, back: () => move(at - 1), kind: step?.kind };
  useEffect(() => {
    if (loaded.status !== "open") return;
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (
        target.closest("input:not([type=checkbox]), textarea, [role=combobox], .ant-modal") ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey
      )
        return;
      const k = keys.current;
      if (event.key === " " && target.closest("button, a, summary, input[type=checkbox]")) return;
      if (event.key === " ") k.done();
      else if (event.key === "Backspace") k.back();
      else if (k.kind === "grade" && /^[1-5]$/.test(event.key)) k.pick((Number(event.key) - 1) as Grade);
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [loaded.status]);

  // Leaving while an answer is on its way would lose it: the browser asks first.
  useEffect(() => {
    if (unsaved === 0) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [unsaved]);

  // The screen stays on while hands are full; where the browser cannot, nothing is lost.
  useEffect(() => {
    if (loaded.status !== "open" || !("wakeLock" in navigator)) return;
    let lock: WakeLockSentinel | undefined;
    const hold = () => {
      if (document.visibilityState === "visible")
        navigator.wakeLock.request("screen").then(
          (l) => {
            lock = l;
          },
          () => undefined,
        );
    };
    hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, [loaded.status]);

  if (loaded.summary || !step)
    return <Summary slug={loaded.slug} title={loaded.title} status={loaded.status} caseId={loaded.caseId} summary={loaded.summary} />;
  const failed =
    actionData && "errors" in actionData
      ? {
          errors: actionData.errors as Record<string, string>,
          typed: ("typed" in actionData ? actionData.typed : {}) as Record<string, string>,
        }
      : undefined;
  const refused = loaded.refusals[step.id] ?? [];
  return (
    <div className="place">
      <Way data={loaded} at={at} />
      <main className="run">
        <div className="run-body">
          <p className="soft">
            {loaded.title} · step {at + 1} of {loaded.steps.length} · {number(minutesLeft)} of {number(loaded.minutes)} minutes left
            {step.minutes > 0 ? ` · this step about ${number(step.minutes)} min` : ""}
          </p>
          <h1 className="step-title" ref={heading} tabIndex={-1}>
            {step.title}
          </h1>
          <p className="big">{step.text}</p>
          {step.caution ? <p className="caution">{step.caution}</p> : null}
          {step.kind === "grade" ? (
            <GradePicker label={step.phase === "as-found" ? "As found" : "As left"} value={grade} onPick={pick} />
          ) : null}
          {advice ? (
            <p className="caution" role="alert">
              {advice.text}
            </p>
          ) : null}
          {step.drawing || step.agents ? (
            <div className="picture">
              {step.drawing ? <Drawing id={step.drawing} /> : null}
              <div className="stack">
                {step.agents || refused.length > 0 ? (
                  <ul className="agents" aria-label="Agents allowed and refused">
                    {step.agents?.map((a) => (
                      <li key={a} className="agent">
                        <span aria-hidden="true">✓ </span>
                        <span className="sr">allowed: </span>
                        {a}
                      </li>
                    ))}
                    {refused.map((r) => (
                      <li key={r.agent} className="agent no">
                        <span className="sr">never: </span>
                        <s>{r.agent}</s> <span className="small">{r.because}</span>
                      </li>
                    ))}
                  </ul>
                ) : null}
              </div>
            </div>
          ) : null}
          {step.tick ? (
            <label className="tick">
              <input
                type="checkbox"
                checked={ticked[step.id] ?? known?.done === true}
                onChange={(e) => setTicked({ ...ticked, [step.id]: e.target.checked })}
              />
              {step.tick}
            </label>
          ) : null}
          {step.kind === "proof" ? <Proof data={loaded} failed={failed} /> : null}
          {failed?.errors.skipped ? (
            <p className="hot" role="alert">
              {failed.errors.skipped}
            </p>
          ) : null}
          {skipping ? (
            <form
              className="card row"
              onSubmit={(e) => {
                e.preventDefault();
                const why = String(new FormData(e.currentTarget).get("why") ?? "").trim();
                if (why.length < 2) return;
                save({ skipped: why });
                move(at + 1);
              }}
            >
              <label className="grow">
                <span className="sr">Why skip this step?</span>
                <input
                  name="why"
                  required
                  minLength={2}
                  maxLength={200}
                  placeholder="why? for example: lens is new"
                  style={{
                    width: "100%",
                    minHeight: 44,
                    font: "inherit",
                    padding: "4px 12px",
                    border: "1px solid var(--ink)",
                    borderRadius: 4,
                  }}
                />
              </label>
              <button type="submit" className="button">
                Skip this step
              </button>
            </form>
          ) : null}
        </div>
        <div className="run-foot">
          <button type="button" className="button tall" onClick={() => move(at - 1)} disabled={at === 0}>
            Back
          </button>
          {step.timer ? (
            <StepTimer key={step.id} storageKey={`round-${loaded.id}-${step.id}`} seconds={step.timer.seconds} name={step.timer.name} />
          ) : null}
          {step.kind === "proof" ? (
            <button type="submit" form="proof" className="button primary tall" disabled={saving}>
              Close with this proof
            </button>
          ) : (
            <>
              <button type="button" className="button tall" onClick={() => setSkipping(!skipping)} aria-expanded={skipping}>
                <span>
                  Skip<span className="only-wide">, because…</span>
                </span>
              </button>
              <button type="button" className="button primary tall" onClick={done} disabled={!canGo}>
                {step.kind === "grade" && grade === undefined ? "Pick a grade" : needsTick ? "Tick it first" : "Done, next"}{" "}
                <kbd>Space</kbd>
              </button>
            </>
          )}
          {known?.skipped ? <span className="soft">skipped: {known.skipped}</span> : null}
          <span className="soft small" role="status" style={{ alignSelf: "center" }}>
            {saving ? "saving…" : Object.keys(answers).length > 0 ? "saved" : ""}
          </span>
          {loaded.caseId && step.kind === "proof" ? (
            <Link className="button quiet" to={`/${loaded.slug}/trace/${loaded.caseId}`}>
              the case
            </Link>
          ) : null}
        </div>
      </main>
    </div>
  );
}
