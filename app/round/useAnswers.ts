/**
 * The answers of an open round on this device: shown at once, kept in the browser until the server has them, sent one batch after the
 * other, and brought up to date with what other devices answered.
 */
import { useCallback, useEffect, useRef, useState } from "react";
import { mergeAnswer, type RoundAnswer } from "#core/rounds";
import { arrivedMs } from "../ui/arrival";
import { oneTimeKey } from "../ui/oneTimeKey";
import { type Pending, pendingAnswers } from "./pending";
import { keepTold, readTold } from "./told";

type Answers = Readonly<Record<string, RoundAnswer>>;

interface Told {
  readonly status: string;
  readonly answers: Answers;
  readonly nowMs: number;
  readonly kept?: readonly string[];
  readonly notices?: readonly string[];
  readonly refused?: readonly { readonly requestKey: string; readonly because: string }[];
}

export interface RoundAnswers {
  readonly answers: Answers;
  readonly save: (stepId: string, answer: Omit<RoundAnswer, "atMs">) => void;
  /** The server's present time as far as this device knows. */
  readonly nowMs: () => number;
  /** Answers the server does not have yet. */
  readonly waiting: number;
  readonly link: "up" | "down" | "signed-out";
  readonly problem: string | undefined;
  /** What the server made of an answer that came after another device's. */
  readonly notice: string | undefined;
}

const RETRY_MS = 3000;
const POLL_MS = 6000;
/** A line that gives no answer for so long is down, whatever it says itself. */
const PATIENCE_MS = 8000;
const asking = () => AbortSignal.timeout(PATIENCE_MS);
const JSON_HEADERS = { "Content-Type": "application/json", Accept: "application/json" };

const NOT_KEPT = "This browser keeps nothing between pages: stay on this one until what you answered is saved.";

function merged(server: Answers, pending: readonly Pending[]): Answers {
  const answers: Record<string, RoundAnswer> = { ...server };
  for (const p of pending) answers[p.stepId] = mergeAnswer(answers[p.stepId], p.answer);
  return answers;
}

export function useAnswers(options: {
  readonly slug: string;
  readonly roundId: number;
  readonly initial: Answers;
  readonly serverNowMs: number;
  readonly open: boolean;
  /** The round was closed on another device. */
  readonly onClosed: () => void;
  /** Answers of an earlier page were found here, merged over what the server had. */
  readonly onResumed: (answers: Answers) => void;
}): RoundAnswers {
  const { slug, roundId, initial, serverNowMs, open } = options;
  const url = `/${slug}/round/${roundId}/answers`;
  const key = `clenor-answers:${slug}/${roundId}`;
  const [server, setServer] = useState(initial);
  const [pending, setPending] = useState<readonly Pending[]>([]);
  const [link, setLink] = useState<RoundAnswers["link"]>("up");
  const [problem, setProblem] = useState<string>();
  const [notice, setNotice] = useState<string>();
  const [queue] = useState(() => pendingAnswers(() => window.localStorage, key));
  const sending = useRef(false);
  const offset = useRef<number>(0);
  const onClosed = useRef(options.onClosed);
  onClosed.current = options.onClosed;
  const onResumed = useRef(options.onResumed);
  onResumed.current = options.onResumed;
  const first = useRef(initial);
  const woken = useRef(false);
  const nowMs = useCallback(() => Date.now() + offset.current, []);

  const changed = useCallback(() => setPending(queue.list()), [queue]);

  /** Answers are taken in the order they were asked for: one that comes late tells nothing new. */
  const asked = useRef(0);
  const taken = useRef(0);
  const take = useCallback(
    (told: Told, turn: number) => {
      if (turn < taken.current) return;
      taken.current = turn;
      offset.current = told.nowMs - Date.now();
      keepTold(() => window.localStorage, `${key}:told`, { answers: told.answers, nowMs: told.nowMs, aheadMs: offset.current });
      setServer(told.answers);
      setLink("up");
      if (told.status !== "open" && queue.list().length === 0) onClosed.current();
    },
    [queue, key],
  );

  const flush = useCallback(async () => {
    if (sending.current) return;
    sending.current = true;
    try {
      while (queue.list().length > 0) {
        const batch = queue.list().slice(0, 50);
        asked.current += 1;
        const turn = asked.current;
        const reply = await fetch(url, { method: "POST", headers: JSON_HEADERS, body: JSON.stringify({ items: batch }), signal: asking() });
        if (reply.status === 401) {
          setLink("signed-out");
          return;
        }
        if (reply.status >= 500 || reply.status === 429) throw new Error(`the server answered ${reply.status}`);
        const told = (await reply.json()) as Partial<Told>;
        const refused = told.refused ?? (reply.ok ? [] : batch.map((b) => ({ requestKey: b.requestKey, because: "It cannot be kept." })));
        if (refused[0]) setProblem(refused[0].because);
        if (told.notices?.length) setNotice(told.notices.join(" "));
        const settled = new Set([...(told.kept ?? []), ...refused.map((r) => r.requestKey)]);
        queue.settle(settled);
        changed();
        if (told.answers) take(told as Told, turn);
        if (settled.size === 0) return;
      }
    } catch {
      setLink("down");
    } finally {
      sending.current = false;
    }
  }, [url, queue, changed, take]);

  // What an earlier page could not send goes first. Once: a page told anew by the server has no earlier one, and its clock is set.
  useEffect(() => {
    if (woken.current) return;
    woken.current = true;
    // A page that was kept on this device is older than what the server told since: that counts, and its clock.
    const told = readTold(() => window.localStorage, `${key}:told`);
    const isOlder = told !== undefined && told.nowMs >= serverNowMs;
    offset.current = isOlder ? told.aheadMs : serverNowMs - arrivedMs();
    const known = isOlder ? told.answers : first.current;
    if (isOlder) setServer(told.answers);
    else keepTold(() => window.localStorage, `${key}:told`, { answers: known, nowMs: serverNowMs, aheadMs: offset.current });
    const kept = queue.takeOver();
    if (kept.length === 0 && !isOlder) return;
    changed();
    onResumed.current(merged(known, kept));
    void flush();
  }, [serverNowMs, queue, changed, flush, key]);

  useEffect(() => {
    if (!open) return;
    const again = () => void flush();
    const retry = window.setInterval(() => {
      if (queue.list().length > 0) again();
    }, RETRY_MS);
    const poll = window.setInterval(() => {
      if (queue.list().length > 0 || document.visibilityState !== "visible") return;
      asked.current += 1;
      const turn = asked.current;
      fetch(url, { headers: { Accept: "application/json" }, signal: asking() })
        .then(async (reply) => {
          const told = reply.ok ? ((await reply.json()) as Told) : undefined;
          if (told && queue.list().length === 0) take(told, turn);
          else if (reply.status === 401) setLink("signed-out");
        })
        .catch(() => setLink("down"));
    }, POLL_MS);
    window.addEventListener("online", again);
    document.addEventListener("visibilitychange", again);
    return () => {
      window.clearInterval(retry);
      window.clearInterval(poll);
      window.removeEventListener("online", again);
      document.removeEventListener("visibilitychange", again);
    };
  }, [open, url, queue, flush, take]);

  const save = useCallback(
    (stepId: string, answer: Omit<RoundAnswer, "atMs">) => {
      queue.add({ stepId, answer: { ...answer, atMs: nowMs() }, requestKey: oneTimeKey() });
      setProblem(undefined);
      changed();
      void flush();
    },
    [queue, changed, flush, nowMs],
  );

  const unkept = pending.length > 0 && !queue.isKept() ? NOT_KEPT : undefined;
  return { answers: merged(server, pending), save, nowMs, waiting: pending.length, link, problem: problem ?? unkept, notice };
}
