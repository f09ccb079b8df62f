/**
 * What was worked out from a store, kept beside it by a key. Inside a transaction the store is another one: it begins with what was
 * kept outside, and what it adds goes with it, so that nothing is left of a transaction that is undone.
 */
import type { Store } from "./database";

const outside = new WeakMap<Store, Store>();

/** To be told of every transaction that is opened. */
export function within(tx: Store, store: Store): void {
  outside.set(tx, store);
}

const all: KeptBeside<unknown>[] = [];

/** After records were replaced, not added to: nothing that was worked out before holds. */
export function forget(store: Store): void {
  for (const kept of all) kept.drop(store);
}

export class KeptBeside<T> {
  private readonly byStore = new WeakMap<Store, Map<number, T>>();

  constructor() {
    all.push(this as KeptBeside<unknown>);
  }

  drop(store: Store): void {
    this.byStore.delete(store);
  }

  get(store: Store, key: number): T | undefined {
    const own = this.byStore.get(store)?.get(key);
    const parent = outside.get(store);
    return own ?? (parent && this.get(parent, key));
  }

  set(store: Store, key: number, value: T): void {
    const kept = this.byStore.get(store) ?? new Map<number, T>();
    this.byStore.set(store, kept);
    kept.set(key, value);
  }
}
