/** What a case is taken to have been, once its repairs have ended it. */
import { isMendedBy, type TraceAnswer, type TraceModel } from "#core/trace";

/**
 * Of the faults that repairs mend the likeliest, and a second one that was half as likely: what was served in passing ended nothing. It moves
 * this workshop's base rates.
 */
export function creditedWith({ faults }: TraceModel, repairs: readonly string[], likely: TraceAnswer["faults"]): string[] {
  const mended = faults.filter((f) => isMendedBy(f, repairs)).map((f) => f.id);
  const served = likely.filter((f) => mended.includes(f.id)).slice(0, 2);
  return served.filter((f) => f.probability >= 0.5 * (served[0]?.probability ?? 0)).map((f) => f.id);
}
