/** Where a round stands on this device: the step on screen, what may be done at it, and doing it. */
import { useEffect, useMemo, useRef, useState } from "react";
import { useRevalidator } from "react-router";
import type { Grade } from "#core/beam";
import {
  ANYWAY,
  brokenWord,
  furthest,
  gradeAdvice,
  type HeldBack,
  heldBack,
  heldBy,
  isApart,
  isGuard,
  mergeAnswer,
  minutesLeft,
  NOT_SEEN,
  nextStep,
  type RoundAnswer,
  type Step,
  walkOf,
} from "#core/rounds";
import type { Route } from "./+types/run";
import { secondsLeft, useTicking } from "./Timers";
import { useAnswers } from "./useAnswers";
import { useAwake } from "./useAwake";
import { usePhotos } from "./usePhotos";

const INITIALS = "clenor-initials";

type Loaded = Route.ComponentProps["loaderData"];

/** What is asked for in place at a step. */
export type Asking = "skip" | "note" | "end" | undefined;

/** Why a step cannot be left yet; undefined when it can. */
export type Hold = "grade" | "choice" | "drying" | "tick" | "proof" | undefined;

export function useRunner(loaded: Loaded) {
  const revalidator = useRevalidator();
  const open = loaded.status === "open";
  const [here, setHere] = useState(loaded.steps[loaded.at]?.id);
  const kept = useAnswers({
    slug: loaded.slug,
    roundId: loaded.id,
    initial: loaded.answers,
    serverNowMs: Number(loaded.nowMs),
    open,
    onClosed: () => void revalidator.revalidate(),
    // Answers that an earlier page could not send: go on where they end.
    onResumed: (known) => {
      const given = new Map(Object.entries(known));
      const walk = walkOf(loaded.steps, given);
      setHere(walk[Math.min(walk.length - 1, nextStep(walk, given))]?.id);
    },
  });
  const { answers, save, nowMs } = kept;
  const [asking, setAsking] = useState<Asking>();
  const [by, setBy] = useInitials();
  const photos = usePhotos(loaded.slug, loaded.id, (stepId, hash) => save(stepId, { photos: [hash] }));
  const heading = useRef<HTMLHeadingElement>(null);
  const camera = useRef<HTMLInputElement>(null);
  const now = useTicking(
    nowMs,
    loaded.steps.some((s) => s.timer && answers[s.id]?.timerEndsMs !== undefined),
  );
  useAwake(open);

  const given = useMemo(() => new Map(Object.entries(answers)), [answers]);
  const walk = walkOf(loaded.steps, given);
  const limit = furthest(walk, given);
  const at = Math.max(
    0,
    walk.findIndex((s) => s.id === here),
  );
  const step = walk[at] as Step;
  const tick = useTick(step);
  const known = answers[step.id];
  const grade = known?.grade as Grade | undefined;
  const left = secondsLeft(known, now);
  const drying = step.timer?.name === "drying" && left !== undefined && left > 0 && !known?.done;
  const hold = holdOf(step, { grade, choice: known?.choice, drying, ticked: tick.ticked ?? known?.done === true });
  const missing = step.kind === "proof" ? heldBy(walk, given) : [];
  const noFire =
    step.kind === "proof" ? noFireWords(heldBack(loaded.steps, given, new Map(Object.entries(loaded.before))), loaded) : undefined;

  // The bar of every place says whether the machine is apart: told anew when it changed and the server knows of it.
  const apart = loaded.apart && isApart(loaded.steps, given);
  const told = useRef(apart);
  const settled = kept.waiting === 0;
  useEffect(() => {
    if (!open || !settled || told.current === apart) return;
    told.current = apart;
    void revalidator.revalidate();
  }, [apart, settled, open, revalidator]);

  const answer = (stepId: string, what: Omit<RoundAnswer, "atMs">) => save(stepId, by ? { ...what, by } : what);
  const show = (id: string | undefined) => {
    setAsking(undefined);
    setHere(id);
    window.scrollTo({ top: 0 });
    heading.current?.focus();
  };
  /** Backwards is free; forwards only as far as nothing that must be ticked lies between. */
  const move = (to: number) => show(walk[Math.min(limit, Math.max(0, to))]?.id);
  /** On to what follows once this answer counts: it may ask for steps that were not there before. */
  const goOn = (what: Omit<RoundAnswer, "atMs">) => {
    const next = new Map(given).set(step.id, mergeAnswer(known, { ...what, atMs: nowMs() }));
    const after = walkOf(loaded.steps, next);
    const to = after.findIndex((s) => s.id === step.id) + 1;
    show(after[Math.min(furthest(after, next), to)]?.id);
  };
  const startTimer = () => {
    if (step.timer) save(step.id, { timerEndsMs: nowMs() + step.timer.seconds * 1000 });
  };
  const done = () => {
    if (hold !== undefined) return;
    const what = { done: true as const, ...(grade !== undefined && known?.choice === undefined ? { grade } : {}) };
    answer(step.id, what);
    // What was just wetted has to dry before there is power: the wait runs from now, whatever else is done meanwhile.
    const dry = step.wet ? loaded.steps.find((s) => s.timer?.name === "drying") : undefined;
    if (dry?.timer) save(dry.id, { timerEndsMs: nowMs() + dry.timer.seconds * 1000 });
    goOn(what);
  };
  return {
    ...kept,
    given,
    walk,
    limit,
    missing,
    /** Why nothing is fired to prove it. */
    noFire,
    /** Nothing is plugged in: a part is out or broken. */
    staysApart: apart,
    skippable: !isGuard(step),
    endKey: `${loaded.key}-end`,
    at,
    step,
    known,
    grade,
    now,
    left,
    drying,
    hold,
    tick,
    by,
    setBy,
    asking,
    setAsking,
    photos,
    heading,
    camera,
    move,
    done,
    startTimer,
    // Kept at once: a battery may die between looking and walking on.
    pick: (g: Grade) => answer(step.id, { grade: g }),
    notSeen: known?.choice === NOT_SEEN,
    sayNotSeen: () => answer(step.id, { choice: NOT_SEEN }),
    anyway: known?.choice === ANYWAY,
    cleanAnyway: () => answer(step.id, { grade: 0, choice: ANYWAY }),
    choose: (choice: string) => answer(step.id, { choice }),
    readAir: (airMps: number) => answer(step.id, { airMps }),
    said: step.seen?.find((o) => o.id === known?.choice),
    skip: (why: string) => {
      answer(step.id, { skipped: why });
      goOn({ skipped: why });
    },
    note: (words: string) => {
      answer(step.id, { note: words });
      setAsking(undefined);
    },
    // Before the page is awake it has no clock: what is drying is added then.
    minutesLeft: minutesLeft(loaded.steps, given, now === 0 ? Number.MAX_SAFE_INTEGER : now),
    advice:
      step.kind === "grade" && step.station && step.phase && grade !== undefined && known?.choice !== NOT_SEEN
        ? gradeAdvice(step.station, step.phase, grade)
        : undefined,
  };
}

export type Running = ReturnType<typeof useRunner>;

function holdOf(step: Step, is: { grade: Grade | undefined; choice: string | undefined; drying: boolean; ticked: boolean }): Hold {
  if (step.kind === "proof") return "proof";
  if (step.kind === "grade" && is.grade === undefined && is.choice !== NOT_SEEN) return "grade";
  if (step.seen && is.choice === undefined) return "choice";
  if (is.drying) return "drying";
  return step.tick !== undefined && !is.ticked ? "tick" : undefined;
}

/** Why nothing is fired at the end of this round; undefined when something may be. */
function noFireWords({ out, broken, stops }: HeldBack, loaded: Loaded): string | undefined {
  const name = (station: string) => loaded.names[station] ?? station;
  const [missing] = out;
  if (missing !== undefined) return `${name(missing)} is out`;
  const [bad] = broken;
  if (bad) return `${name(bad[0])} is ${brokenWord(bad[1])}`;
  return stops[0] ?? (loaded.outBefore && `${name(loaded.outBefore)} is out`);
}

/** What the browser keeps; nothing where it keeps nothing. */
function onDevice<T>(use: (kept: Storage) => T): T | undefined {
  try {
    return use(window.localStorage);
  } catch {
    return undefined;
  }
}

/** Who walks the round: kept on the device, so that it is given once. */
function useInitials(): [string, (by: string) => void] {
  const [by, setBy] = useState("");
  useEffect(() => setBy(onDevice((kept) => kept.getItem(INITIALS)) ?? ""), []);
  const keep = (next: string) => {
    setBy(next);
    onDevice((kept) => kept.setItem(INITIALS, next));
  };
  return [by, keep];
}

/** The tick of a step that has one. */
function useTick(step: Step) {
  const [ticked, setTicked] = useState<Readonly<Record<string, boolean>>>({});
  const frame = useRef<HTMLDivElement>(null);
  // On a slow phone a hand can be faster than the page: what was ticked before it woke up stays ticked.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what was there when the page woke
  useEffect(() => {
    if (frame.current?.querySelector<HTMLInputElement>("input[type=checkbox]")?.checked) setTicked({ [step.id]: true });
  }, []);
  return { frame, ticked: ticked[step.id], set: (on: boolean) => setTicked({ ...ticked, [step.id]: on }) };
}
