/** What every service is handed: the store, the folder its photos lie in, and the clock, which tests and pictures set. */
import type { Plan, PlanInstance } from "#core/plan";
import type { TraceAnswer, TraceInput, TraceModel } from "#core/trace";
import type { Store } from "#store/database";

export interface Services {
  readonly store: Store;
  /** Present time in ms. */
  readonly nowMs: () => number;
  /** Data folder, where photos lie beside the database. */
  readonly folder: string;
  /** Answers a case elsewhere, so that nobody waits behind it; here where it is left out. */
  readonly tracer?: (model: TraceModel, input: TraceInput) => Promise<TraceAnswer>;
  /** A very small computer works nothing out before it is asked for. */
  readonly onlyAsked?: boolean;
  /** Looks elsewhere for the plan that takes least; where it is left out the quick one stands. */
  readonly planner?: (instance: PlanInstance) => Promise<Plan>;
  /** Of a page that comes with the answer there is, where a new one takes longer. */
  readonly haste?: Haste;
}

/** A page that does not wait until a case is weighed anew, and whether it came with an older answer. */
export interface Haste {
  isBehind: boolean;
}

/** The same services for a page in haste. */
export const inHaste = <S extends Services>(services: S): S & { readonly haste: Haste } => ({ ...services, haste: { isBehind: false } });
