/** Photos taken in a round: kept in the browser's own database until the server has them, so that a lost network loses none. */
import { get, update } from "idb-keyval";
import { useCallback, useEffect, useRef, useState } from "react";
import { oneTimeKey } from "../ui/oneTimeKey";
import { sendPhoto, shrinkPhoto } from "../ui/photos";

interface Waiting {
  readonly id: string;
  readonly stepId: string;
  readonly blob: Blob;
}

const NOT_SENT =
  "The photo was not saved: this browser keeps none, and the server did not take it. Take it again when the connection is back.";

export function usePhotos(slug: string, roundId: number, onKept: (stepId: string, hash: string) => void) {
  const key = `clenor-photos:${slug}/${roundId}`;
  const [waiting, setWaiting] = useState<readonly (Waiting & { readonly preview: string })[]>([]);
  const [problem, setProblem] = useState<string>();
  const sending = useRef(false);
  const kept = useRef(onKept);
  kept.current = onKept;

  const show = useCallback((list: readonly Waiting[]) => {
    setWaiting((before) => {
      for (const b of before) URL.revokeObjectURL(b.preview);
      return list.map((w) => ({ ...w, preview: URL.createObjectURL(w.blob) }));
    });
  }, []);

  const flush = useCallback(async () => {
    if (sending.current) return;
    sending.current = true;
    try {
      for (;;) {
        const [next] = (await get<Waiting[]>(key)) ?? [];
        if (!next) break;
        const answer = await sendPhoto(next.blob);
        if ("hash" in answer) kept.current(next.stepId, answer.hash);
        else setProblem(answer.problem);
        await update<Waiting[]>(key, (list) => (list ?? []).filter((w) => w.id !== next.id));
        show((await get<Waiting[]>(key)) ?? []);
      }
    } catch (error) {
      // They wait, and the next try comes by itself. Without a network that is all there is to say.
      if (error instanceof Error && !(error instanceof TypeError) && error.message !== "signed out")
        setProblem(`${error.message} The photo waits on this device.`);
    } finally {
      sending.current = false;
    }
  }, [key, show]);

  useEffect(() => {
    get<Waiting[]>(key).then(
      (list) => {
        if (list && list.length > 0) show(list);
        void flush();
      },
      () => undefined,
    );
    const retry = window.setInterval(() => void flush(), 5000);
    const again = () => void flush();
    window.addEventListener("online", again);
    return () => {
      window.clearInterval(retry);
      window.removeEventListener("online", again);
    };
  }, [key, show, flush]);

  const add = useCallback(
    async (stepId: string, file: Blob) => {
      setProblem(undefined);
      try {
        const blob = await shrinkPhoto(file);
        const isKept = await update<Waiting[]>(key, (list) => [...(list ?? []), { id: oneTimeKey(), stepId, blob }]).then(
          () => true,
          () => false,
        );
        if (isKept) {
          show((await get<Waiting[]>(key)) ?? []);
          void flush();
          return;
        }
        // Where the browser keeps nothing it goes at once or not at all.
        const answer = await sendPhoto(blob).catch(() => ({ problem: NOT_SENT }));
        if ("hash" in answer) kept.current(stepId, answer.hash);
        else setProblem(answer.problem);
      } catch (error) {
        setProblem(error instanceof Error ? error.message : "This photo cannot be kept.");
      }
    },
    [key, show, flush],
  );
  return { waiting, problem, add };
}
