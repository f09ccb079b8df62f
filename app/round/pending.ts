/** Answers that the server does not have yet, kept in the browser across pages until it has. */
import type { RoundAnswer } from "#core/rounds";

export interface Pending {
  readonly stepId: string;
  readonly answer: RoundAnswer;
  readonly requestKey: string;
}

export interface PendingAnswers {
  /** This page's own, oldest first. */
  readonly list: () => readonly Pending[];
  /** Takes over what any page of the round kept here. */
  readonly takeOver: () => readonly Pending[];
  readonly add: (answer: Pending) => void;
  /** Those the server has an answer to are done with. */
  readonly settle: (requestKeys: ReadonlySet<string>) => void;
  /** Whether the browser keeps them: full or shut, it does not, and they live as long as this page. */
  readonly isKept: () => boolean;
}

const isPending = (p: unknown): p is Pending => typeof p === "object" && p !== null && "stepId" in p && "answer" in p && "requestKey" in p;

/** A second page of the same round may be open: every change is made to what is stored then, not to what this page last saw. */
export function pendingAnswers(storage: () => Pick<Storage, "getItem" | "setItem">, key: string): PendingAnswers {
  let own: readonly Pending[] = [];
  let kept = true;
  const stored = (): Pending[] => {
    try {
      const told: unknown = JSON.parse(storage().getItem(key) ?? "[]");
      return Array.isArray(told) ? told.filter(isPending) : [];
    } catch {
      return [];
    }
  };
  const without = (list: readonly Pending[], keys: ReadonlySet<string>) => list.filter((p) => !keys.has(p.requestKey));
  const and = (list: readonly Pending[], more: readonly Pending[]) => [...list, ...without(more, new Set(list.map((p) => p.requestKey)))];
  /** What could not be kept before is kept as soon as there is room. */
  const store = (others: readonly Pending[]): void => {
    try {
      storage().setItem(key, JSON.stringify(and(others, own)));
      kept = true;
    } catch {
      kept = false;
    }
  };
  return {
    list: () => own,
    takeOver: () => {
      own = and(stored(), own);
      return own;
    },
    add: (answer) => {
      own = [...own, answer];
      store(stored());
    },
    settle: (keys) => {
      own = without(own, keys);
      store(without(stored(), keys));
    },
    isKept: () => kept,
  };
}
