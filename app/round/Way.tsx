/** The round's way through the machine: where we are, what is behind and what is to come. A part leads to its first step. */
import { useEffect, useRef } from "react";
import type { Step } from "#core/rounds";

export function Way({
  steps,
  at,
  limit,
  isDone,
  onGo,
}: {
  steps: readonly Step[];
  at: number;
  /** Furthest step one may go to. */
  limit: number;
  isDone: (stepId: string) => boolean;
  onGo: (index: number) => void;
}) {
  const parts: { name: string; first: number; count: number }[] = [];
  steps.forEach((s, i) => {
    const last = parts.at(-1);
    if (last?.name === s.part) last.count++;
    else parts.push({ name: s.part, first: i, count: 1 });
  });
  const list = useRef<HTMLOListElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the step on screen moves the way, nothing else does
  useEffect(() => {
    const now = list.current?.querySelector<HTMLElement>("li.now");
    const frame = list.current?.parentElement;
    if (!now || !frame) return;
    frame.scrollTo({ top: now.offsetTop - frame.clientHeight / 3, left: now.offsetLeft - frame.clientWidth / 2 });
  }, [at]);
  return (
    <aside className="rail">
      <div className="way-frame">
        <ol className={parts.length > 11 ? "way dense" : "way"} aria-label="The round's way through the machine" ref={list}>
          {parts.map((p) => {
            const now = at >= p.first && at < p.first + p.count;
            const past = !now && steps.slice(p.first, p.first + p.count).every((s) => isDone(s.id));
            return (
              <li key={p.first} className={now ? "now" : past ? "past" : ""} aria-current={now ? "step" : undefined}>
                <i className="dot" aria-hidden="true" />
                <button type="button" onClick={() => onGo(p.first)} disabled={p.first > limit} className={past || now ? "" : "soft"}>
                  {p.name}
                  {now && p.count > 1 ? (
                    <span className="small soft">
                      step {at - p.first + 1} of {p.count}
                    </span>
                  ) : null}
                </button>
              </li>
            );
          })}
        </ol>
      </div>
    </aside>
  );
}
