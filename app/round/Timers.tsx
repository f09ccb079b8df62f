/** Timers of a round: they run on across steps, reloads and devices, and say when they are done, by word, sound and a buzz. */
import { Button } from "antd";
import { useEffect, useRef, useState } from "react";
import type { RoundAnswer, Step } from "#core/rounds";

export const clock = (seconds: number) => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;

/** Whole seconds left of a step's timer; undefined while it was never started. */
export function secondsLeft(answer: RoundAnswer | undefined, nowMs: number): number | undefined {
  return answer?.timerEndsMs === undefined ? undefined : Math.max(0, Math.ceil((answer.timerEndsMs - nowMs) / 1000));
}

/** The present, told anew four times a second while something runs. */
export function useTicking(nowMs: () => number, running: boolean): number {
  const [now, setNow] = useState<number | undefined>(undefined);
  useEffect(() => {
    setNow(nowMs());
    if (!running) return;
    const tick = window.setInterval(() => setNow(nowMs()), 250);
    return () => window.clearInterval(tick);
  }, [nowMs, running]);
  return now ?? 0;
}

function ring(): void {
  navigator.vibrate?.([300, 150, 300]);
  try {
    const audio = new AudioContext();
    for (const at of [0, 0.35, 0.7]) {
      const tone = audio.createOscillator();
      const volume = audio.createGain();
      volume.gain.value = 0.15;
      tone.frequency.value = 880;
      tone.connect(volume).connect(audio.destination);
      tone.start(audio.currentTime + at);
      tone.stop(audio.currentTime + at + 0.2);
    }
    window.setTimeout(() => void audio.close(), 2000);
  } catch {
    // Without sound the words still say it.
  }
}

/** A timer that ended so long ago says nothing any more. */
const FORGET_MS = 10 * 60_000;

export function Timers({
  steps,
  answers,
  now,
  here,
  onGo,
}: {
  steps: readonly Step[];
  answers: Readonly<Record<string, RoundAnswer>>;
  now: number;
  /** Step on screen: its own timer shows there. */
  here: string;
  onGo: (stepId: string) => void;
}) {
  const rung = useRef(new Set<string>());
  const [heard, setHeard] = useState<ReadonlySet<string>>(new Set());
  const running = steps.flatMap((s) => {
    const answer = answers[s.id];
    const left = secondsLeft(answer, now);
    if (!s.timer || left === undefined || now === 0) return [];
    // Power that is on needs no drying any more; one that rang long ago was heard, or is of another day.
    const past = (s.timer.name === "drying" && answer?.done) || now - (answer?.timerEndsMs ?? 0) > FORGET_MS;
    return past || heard.has(`${s.id} ${answer?.timerEndsMs}`) ? [] : [{ id: s.id, ends: answer?.timerEndsMs, name: s.timer.name, left }];
  });
  const over = running.filter((t) => t.left === 0);
  const overIds = over.map((t) => t.id).join(" ");
  useEffect(() => {
    for (const id of overIds.split(" ")) {
      if (id === "" || rung.current.has(id)) continue;
      rung.current.add(id);
      ring();
    }
  }, [overIds]);
  const shown = running.filter((t) => t.id !== here || t.left === 0);
  return (
    <>
      <p className="sr" role="alert">
        {over.map((t) => `${t.name}: time is over.`).join(" ")}
      </p>
      {shown.length > 0 ? (
        <ul className="row tight" aria-label="Timers">
          {shown.map((t) => (
            <li key={t.id}>
              <Button
                color={t.left === 0 ? "danger" : "default"}
                variant="solid"
                onClick={() => {
                  if (t.left === 0) setHeard(new Set([...heard, `${t.id} ${t.ends}`]));
                  else onGo(t.id);
                }}
              >
                <b>{t.left === 0 ? "time is over:" : clock(t.left)}</b> {t.name}
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
    </>
  );
}
