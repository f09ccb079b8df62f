/** A timer that runs on across a reload and says when it is done. T starts it. */
import { useEffect, useState } from "react";

const clock = (seconds: number) => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;

export function StepTimer({ storageKey, seconds, name }: { storageKey: string; seconds: number; name: string }) {
  const [endsMs, setEndsMs] = useState<number | undefined>(undefined);
  const [nowMs, setNowMs] = useState(0);
  useEffect(() => {
    const kept = Number(window.localStorage.getItem(storageKey));
    if (kept > 0) setEndsMs(kept);
    setNowMs(Date.now());
  }, [storageKey]);
  useEffect(() => {
    if (endsMs === undefined) return;
    const tick = window.setInterval(() => setNowMs(Date.now()), 250);
    return () => window.clearInterval(tick);
  }, [endsMs]);
  const left = endsMs === undefined ? seconds : Math.max(0, Math.ceil((endsMs - nowMs) / 1000));
  const start = () => {
    const ends = Date.now() + seconds * 1000;
    window.localStorage.setItem(storageKey, String(ends));
    setNowMs(Date.now());
    setEndsMs(ends);
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() === "t" && !(event.target as HTMLElement).closest("input, textarea")) {
        const ends = Date.now() + seconds * 1000;
        window.localStorage.setItem(storageKey, String(ends));
        setNowMs(Date.now());
        setEndsMs(ends);
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [storageKey, seconds]);
  return (
    <>
      <button type="button" className="button tall" onClick={start}>
        {clock(left)} {name} <kbd>T</kbd>
      </button>
      <span className="sr" role="status">
        {endsMs !== undefined && left === 0 ? `${name} time is over` : ""}
      </span>
    </>
  );
}
