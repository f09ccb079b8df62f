/** A page that came before its cases were weighed anew asks for what they stand at, and is told as soon as that is known. */
import { useEffect } from "react";
import type { WeighedToday } from "#services/today/todayView";

const AGAIN_MS = 2000;
/** A server that says nothing for so long is asked again. */
const LONGEST_MS = 20_000;

/** `behind` is the loaded page that is behind, undefined where it is not; `tell` stays the same between renderings. */
export function useWeighed(slug: string, behind: object | undefined, tell: (weighed: WeighedToday, behind: object) => void): void {
  useEffect(() => {
    if (!behind) return undefined;
    const gone = new AbortController();
    const ask = async (): Promise<void> => {
      const signal = AbortSignal.any([gone.signal, AbortSignal.timeout(LONGEST_MS)]);
      const told = await fetch(`/${slug}/trace/weighed`, { signal })
        .then((reply) => (reply.ok ? (reply.json() as Promise<WeighedToday>) : undefined))
        .catch(() => undefined);
      if (gone.signal.aborted) return;
      if (told) tell(told, behind);
      else setTimeout(() => gone.signal.aborted || void ask(), AGAIN_MS);
    };
    void ask();
    return () => gone.abort();
  }, [slug, behind, tell]);
}
