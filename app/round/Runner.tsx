/** The round at the machine: one step at a time in big type. Every answer is kept as it is given, network or not. */
import { useEffect, useRef, useState } from "react";
import { Link, useNavigation, useRevalidator } from "react-router";
import type { Grade } from "#core/beam";
import { gradeAdvice, isAnswered, isOptic, minutesOf, nextStep, type RoundAnswer } from "#core/rounds";
import { GradePicker } from "../ui/GradePicker";
import { number } from "../workshop/words";
import type { Route } from "./+types/run";
import { Ask } from "./Ask";
import { Fetch } from "./Fetch";
import { Proof, type ProofTrouble } from "./Proof";
import { StepPhotos } from "./StepPhotos";
import { StepPicture } from "./StepPicture";
import { clock, secondsLeft, Timers, useTicking } from "./Timers";
import { useAnswers } from "./useAnswers";
import { useAwake } from "./useAwake";
import { usePhotos } from "./usePhotos";
import { Way } from "./Way";

const INITIALS = "clenor-initials";

type Loaded = Route.ComponentProps["loaderData"];

export function Runner({ data: loaded, failed }: { data: Loaded; failed: ProofTrouble }) {
  const revalidator = useRevalidator();
  const busy = useNavigation().state !== "idle";
  const open = loaded.status === "open";
  const [at, setAt] = useState(loaded.at);
  const { answers, save, nowMs, waiting, link, problem, notice } = useAnswers({
    slug: loaded.slug,
    roundId: loaded.id,
    initial: loaded.answers,
    serverNowMs: Number(loaded.nowMs),
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

  if (!step) return null;
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
          <StepPicture step={step} />
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
          {notice ? (
            <p className="caution" role="status">
              {notice}
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
