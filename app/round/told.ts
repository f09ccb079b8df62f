/** What the server last told of a round, kept on this device: a page that is opened without a network is older than that. */
import type { RoundAnswer } from "#core/rounds";

export interface LastTold {
  readonly answers: Readonly<Record<string, RoundAnswer>>;
  /** The server's time then, and what that is ahead of this device's clock, ms. */
  readonly nowMs: number;
  readonly aheadMs: number;
}

const isTold = (x: unknown): x is LastTold => typeof x === "object" && x !== null && "answers" in x && "nowMs" in x && "aheadMs" in x;

export function readTold(storage: () => Pick<Storage, "getItem">, key: string): LastTold | undefined {
  try {
    const told: unknown = JSON.parse(storage().getItem(key) ?? "null");
    return isTold(told) ? told : undefined;
  } catch {
    return undefined;
  }
}

export function keepTold(storage: () => Pick<Storage, "setItem">, key: string, told: LastTold): void {
  try {
    storage().setItem(key, JSON.stringify(told));
  } catch {
    // A page that is opened without a network shows what it knew when it was kept.
  }
}
