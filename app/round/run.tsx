/** The round at the machine: one step at a time in big type. Every answer is kept as it is given, network or not. */
import { randomUUID } from "node:crypto";
import { useEffect, useRef, useState } from "react";
import { data, Link, redirect, useNavigation, useRevalidator } from "react-router";
import { GRADES, type Grade } from "#core/beam";
import { type EventPayload, eventsOf } from "#core/events";
import { gradeAdvice, isAnswered, isOptic, minutesOf, nextStep, type RoundAnswer } from "#core/rounds";
import { listFindings } from "#store/cases";
import { endRound, findRound } from "#store/rounds";
import { readEntry } from "../log/entries";
import { ladderMaterials } from "../log/options";
import { FormReader, trouble } from "../server/forms";
import { caseFindings } from "../trace/caseInput";
import { checkText } from "../trace/words";
import { Drawing } from "../ui/Drawing";
import { GradePicker } from "../ui/GradePicker";
import { type Gathered, gather, gatherOnce } from "../workshop/gather";
import { planOfRound } from "../workshop/trade";
import { materialName, number, ratioWords, shortDay, theStation } from "../workshop/words";
import type { Route } from "./+types/run";
import { bought, closeWithLadder, closeWithPiece, closeWithRepeat, eventsOfRound, failedCheck } from "./close";
import { Fetch } from "./Fetch";
import { Proof } from "./Proof";
import { StepPhotos } from "./StepPhotos";
import { Summary } from "./Summary";
import { clock, secondsLeft, Timers, useTicking } from "./Timers";
import { useAnswers } from "./useAnswers";
import { useAwake } from "./useAwake";
import { usePhotos } from "./usePhotos";
import { Way } from "./Way";

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

const INITIALS = "clenor-initials";

export default function Run({ loaderData: loaded, actionData }: Route.ComponentProps) {
  const revalidator = useRevalidator();
  const busy = useNavigation().state !== "idle";
  const open = loaded.status === "open";
  const [at, setAt] = useState(loaded.at);
  const { answers, save, nowMs, waiting, link, problem } = useAnswers({
    slug: loaded.slug,
    roundId: loaded.id,
    initial: loaded.answers,
    serverNowMs: loaded.nowMs,
    open,
    onClosed: () => void revalidator.revalidate(),
    // Answers that an earlier page could not send: go on where they end.
    onResumed: (known) => setAt(Math.min(loaded.steps.length - 1, nextStep(loaded.steps, new Map(Object.entries(known))))),
  });
  const [ticked, setTicked] = useState<Readonly<Record<string, boolean>>>({});
  const [skipping, setSkipping] = useState(false);
  const [noting, setNoting] = useState(false);
  const [by, setBy] = useState("");
  const photos = usePhotos(loaded.slug, loaded.id, (stepId, hash) => save(stepId, { photos: [hash] }));
  const heading = useRef<HTMLHeadingElement>(null);
  const camera = useRef<HTMLInputElement>(null);
  const tickBox = useRef<HTMLInputElement>(null);
  const ticking = loaded.steps.some((s) => s.timer && answers[s.id]?.timerEndsMs !== undefined);
  const now = useTicking(nowMs, ticking);
  useEffect(() => setBy(window.localStorage.getItem(INITIALS) ?? ""), []);
  // On a slow phone a hand can be faster than the page: what was ticked before it woke up stays ticked.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what was there when the page woke
  useEffect(() => {
    const first = loaded.steps[loaded.at];
    if (tickBox.current?.checked && first) setTicked({ [first.id]: true });
  }, []);
  useAwake(open);

  const step = loaded.steps[at];
  const known = step && answers[step.id];
  const grade = known?.grade as Grade | undefined;
  const left = secondsLeft(known, now);
  const drying = step?.timer?.name === "drying" && left !== undefined && left > 0 && !known?.done;
  const minutesLeft = minutesOf(loaded.steps.filter((s) => !isAnswered(answers[s.id])));
  const advice =
    step?.kind === "grade" && step.station && step.phase && grade !== undefined ? gradeAdvice(step.station, step.phase, grade) : undefined;
  const needsTick = step?.tick !== undefined && !ticked[step.id] && !known?.done;
  const canGo = step !== undefined && step.kind !== "proof" && !needsTick && !drying && (step.kind !== "grade" || grade !== undefined);

  const answer = (stepId: string, what: Omit<RoundAnswer, "atMs">) => save(stepId, by ? { ...what, by } : what);
  const move = (to: number) => {
    setSkipping(false);
    setNoting(false);
    setAt(Math.min(loaded.steps.length - 1, Math.max(0, to)));
    window.scrollTo({ top: 0 });
    heading.current?.focus();
  };
  const startTimer = () => {
    if (step?.timer) save(step.id, { timerEndsMs: nowMs() + step.timer.seconds * 1000 });
  };
  const done = () => {
    if (!canGo || !step) return;
    answer(step.id, { done: true, ...(grade !== undefined ? { grade } : {}) });
    // What was just wetted has to dry before there is power: the wait runs from now, whatever else is done meanwhile.
    const dry = step.wet ? loaded.steps.find((s) => s.timer?.name === "drying") : undefined;
    if (dry?.timer) save(dry.id, { timerEndsMs: nowMs() + dry.timer.seconds * 1000 });
    move(at + 1);
  };
  const pick = (g: Grade) => {
    if (!step) return;
    // Kept at once: a battery may die between looking and walking on.
    answer(step.id, { grade: g });
  };
  const keyActs = { done, pick, back: () => move(at - 1), time: startTimer, photo: () => camera.current?.click(), kind: step?.kind };
  const keys = useRef(keyActs);
  keys.current = keyActs;
  useEffect(() => {
    if (!open) return;
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (
        target.closest("input:not([type=checkbox]):not([type=radio]), textarea, [role=combobox], .ant-modal") ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey
      )
        return;
      const k = keys.current;
      if (event.key === " " && target.closest("button, a, summary, input, label")) return;
      if (event.key === " ") k.done();
      else if (event.key === "Backspace") k.back();
      else if (event.key === "t" || event.key === "T") k.time();
      else if (event.key === "p" || event.key === "P") k.photo();
      else if (k.kind === "grade" && /^[1-5]$/.test(event.key)) k.pick((Number(event.key) - 1) as Grade);
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [open]);

  if (loaded.summary || !step)
    return (
      <Summary
        slug={loaded.slug}
        id={loaded.id}
        title={loaded.title}
        status={loaded.status}
        caseId={loaded.caseId}
        summary={loaded.summary}
      />
    );
  const failed =
    actionData && "errors" in actionData
      ? { errors: actionData.errors as Record<string, string>, typed: actionData.typed as Record<string, string> }
      : undefined;
  return (
    <div className="place">
      <Way steps={loaded.steps} at={at} isDone={(id) => isAnswered(answers[id])} onGo={move} />
      <main className="run">
        <div className="run-body">
          <div className="run-head">
            <p className="soft">
              {loaded.title} · step {at + 1} of {loaded.steps.length} · {number(minutesLeft)} of {number(loaded.minutes)} min left
            </p>
            <label className="who">
              <span className="soft">Who?</span>
              <input
                value={by}
                maxLength={8}
                size={4}
                autoComplete="off"
                aria-label="Your initials, kept with each step"
                onChange={(e) => {
                  setBy(e.target.value);
                  window.localStorage.setItem(INITIALS, e.target.value);
                }}
              />
            </label>
          </div>
          <Timers
            steps={loaded.steps}
            answers={answers}
            now={now}
            here={step.id}
            onGo={(id) => move(loaded.steps.findIndex((s) => s.id === id))}
          />
          <h1 className="step-title" ref={heading} tabIndex={-1}>
            {step.title}
          </h1>
          <p className="big">{step.text}</p>
          {step.caution ? <p className="caution">{step.caution}</p> : null}
          {step.id === "fetch" ? <Fetch list={loaded.fetch} /> : null}
          {step.kind === "grade" ? (
            <GradePicker
              label={step.phase === "as-found" ? "As found" : "As left"}
              value={grade}
              onPick={pick}
              optic={step.station === undefined || isOptic(step.station)}
            />
          ) : null}
          {advice ? (
            <p className="caution" role="alert">
              {advice.text}
            </p>
          ) : null}
          {step.drawing || step.agents || step.refused || step.photos ? (
            <div className="picture">
              {step.drawing ? <Drawing id={step.drawing} /> : null}
              {step.photos?.map((hash) => (
                <img key={hash} className="drawing way-photo" src={`/photos/${hash}`} alt="The right way round, as you photographed it" />
              ))}
              {step.agents || step.refused ? (
                <ul className="agents" aria-label="What may touch it, and what never">
                  {step.agents?.map((a) => (
                    <li key={a.id} className="agent">
                      <b>
                        <span aria-hidden="true">✓ </span>
                        <span className="sr">allowed: </span>
                        {a.name}
                      </b>
                      {a.missing ? <span className="hot"> not on your shelf</span> : null}
                      {a.how ? <span className="small soft"> {a.how}</span> : null}
                    </li>
                  ))}
                  {step.refused?.map((r) => (
                    <li key={r.name} className="agent no">
                      <b>
                        <span aria-hidden="true">✕ </span>
                        <span className="sr">never: </span>
                        <s>{r.name}</s>
                      </b>
                      <span className="small"> {r.because}</span>
                    </li>
                  ))}
                </ul>
              ) : null}
            </div>
          ) : null}
          {drying ? (
            <div className="drying">
              <p>
                <b className="countdown">{clock(left)}</b> until what was wetted is dry. Lid open, no ignition source near.
              </p>
              <button
                type="button"
                className="button"
                onClick={() => answer(step.id, { timerEndsMs: nowMs(), note: "dry before the time was up" })}
              >
                It is dry: no smell left
              </button>
            </div>
          ) : null}
          {step.tick ? (
            <label className="tick">
              <input
                ref={tickBox}
                type="checkbox"
                checked={ticked[step.id] ?? known?.done === true}
                onChange={(e) => setTicked({ ...ticked, [step.id]: e.target.checked })}
              />
              {step.tick}
            </label>
          ) : null}
          {step.kind === "proof" ? <Proof data={loaded} failed={failed} /> : null}
          <StepPhotos kept={known?.photos ?? []} waiting={photos.waiting.filter((w) => w.stepId === step.id)} problem={photos.problem} />
          {problem ? (
            <p className="hot" role="alert">
              {problem}
            </p>
          ) : null}
          {skipping ? (
            <Ask
              label="Why skip this step?"
              placeholder="why? for example: lens is new"
              button="Skip this step"
              onGive={(why) => {
                answer(step.id, { skipped: why });
                move(at + 1);
              }}
            />
          ) : null}
          {noting ? (
            <Ask
              label="Note to this step"
              placeholder="a note to this step"
              button="Keep the note"
              initial={known?.note ?? ""}
              onGive={(note) => {
                answer(step.id, { note });
                setNoting(false);
              }}
            />
          ) : known?.note ? (
            <p className="soft">Note: {known.note}</p>
          ) : null}
          {known?.skipped ? <p className="soft">Skipped: {known.skipped}</p> : null}
        </div>
        <div className="run-foot">
          <button type="button" className="button tall" onClick={() => move(at - 1)} disabled={at === 0}>
            Back
          </button>
          {step.kind === "proof" ? null : (
            <>
              <button type="button" className="button tall" onClick={() => camera.current?.click()}>
                Photo <kbd>P</kbd>
              </button>
              <input
                ref={camera}
                type="file"
                accept="image/*"
                capture="environment"
                className="sr"
                tabIndex={-1}
                aria-label="Photo of this step"
                onChange={(e) => {
                  const file = e.target.files?.[0];
                  if (file) void photos.add(step.id, file);
                  e.target.value = "";
                }}
              />
              {step.timer ? (
                <button type="button" className="button tall" onClick={startTimer}>
                  {left === 0 ? "again" : clock(left ?? step.timer.seconds)} {step.timer.name} <kbd>T</kbd>
                </button>
              ) : null}
              <button type="button" className="button tall" onClick={() => setNoting(!noting)} aria-expanded={noting}>
                Note
              </button>
              <button type="button" className="button tall" onClick={() => setSkipping(!skipping)} aria-expanded={skipping}>
                <span>
                  Skip<span className="only-wide">, because…</span>
                </span>
              </button>
            </>
          )}
          {step.kind === "proof" ? (
            <button type="submit" form="proof" className="button primary tall" disabled={busy || waiting > 0}>
              Close with this proof
            </button>
          ) : (
            <button type="button" className="button primary tall" onClick={done} disabled={!canGo}>
              {step.kind === "grade" && grade === undefined
                ? "Pick a grade"
                : drying
                  ? "Still drying"
                  : needsTick
                    ? "Tick it first"
                    : "Done, next"}{" "}
              <kbd>Space</kbd>
            </button>
          )}
          <span className={link === "up" ? "saved soft small" : "saved hot small"} role="status">
            {link === "signed-out" ? (
              <a href={`/sign-in?to=/${loaded.slug}/round/${loaded.id}`}>Sign in again: {waiting} answers wait here</a>
            ) : link === "down" ? (
              `no network: ${waiting === 0 ? "answers will wait here" : `${waiting} waiting here`}`
            ) : waiting > 0 || photos.waiting.length > 0 ? (
              "saving…"
            ) : Object.keys(answers).length > 0 ? (
              "saved"
            ) : (
              ""
            )}
          </span>
        </div>
        <p className="run-more">
          <Link to={`/${loaded.slug}/round/sheet?round=${loaded.id}`}>Print this round</Link>
          {loaded.caseId ? <Link to={`/${loaded.slug}/trace/${loaded.caseId}`}>The case it is for</Link> : null}
        </p>
      </main>
    </div>
  );
}

/** One line of words, asked for in place. */
function Ask({
  label,
  placeholder,
  button,
  initial = "",
  onGive,
}: {
  label: string;
  placeholder: string;
  button: string;
  initial?: string;
  onGive: (words: string) => void;
}) {
  return (
    <form
      className="card row"
      onSubmit={(e) => {
        e.preventDefault();
        const words = String(new FormData(e.currentTarget).get("words") ?? "").trim();
        if (words.length >= 2) onGive(words);
      }}
    >
      <label className="grow">
        <span className="sr">{label}</span>
        <input
          name="words"
          className="line-input"
          required
          minLength={2}
          maxLength={200}
          placeholder={placeholder}
          defaultValue={initial}
        />
      </label>
      <button type="submit" className="button">
        {button}
      </button>
    </form>
  );
}
