/**
 * What was worked out from a store, kept beside it by a key. Inside a transaction the store is another one: it begins with what was
 * kept outside, and what it adds goes with it, so that nothing is left of a transaction that is undone. Nothing is kept of a store in any
 * other way (a test looks for it): what is kept here is forgotten when the records under it are replaced.
 */
import { LRUCache } from "lru-cache";
import type { Store } from "./tables";

const outside = new WeakMap<Store, Store>();

/** To be told of every transaction that is opened. */
export function within(tx: Store, store: Store): void {
  outside.set(tx, store);
}

const all: KeptBeside<object>[] = [];

/** After records were replaced, not added to: nothing that was worked out before holds. */
export function forget(store: Store): void {
  for (const kept of all) kept.drop(store);
}

interface Shelf<T> {
  readonly get: (key: number) => T | undefined;
  readonly set: (key: number, value: T) => unknown;
}

export class KeptBeside<T extends object> {
  private readonly byStore = new WeakMap<Store, Shelf<T>>();

  /** `most`: how many are kept; all where left out. */
  constructor(private readonly room: { readonly most?: number } = {}) {
    all.push(this as unknown as KeptBeside<object>);
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
    const { most } = this.room;
    const kept: Shelf<T> = this.byStore.get(store) ?? (most === undefined ? new Map<number, T>() : new LRUCache<number, T>({ max: most }));
    this.byStore.set(store, kept);
    kept.set(key, value);
  }
}
