const SIZE = 1024;

/**
 * A list that never changes: adding to it makes another, which shares all but its last few items with it. A log of years is read on
 * thousands of times; each time costs what came, not what there was.
 */
export class Chain<T> implements Iterable<T> {
  private constructor(
    /** All of SIZE items, but for the last. */
    private readonly chunks: readonly (readonly T[])[],
    readonly length: number,
  ) {}

  static from<T>(items: readonly T[]): Chain<T> {
    return new Chain<T>([], 0).append(items);
  }

  /** The item at an index; from the end where it is negative, as an array's. */
  at(index: number): T | undefined {
    const i = index < 0 ? this.length + index : index;
    return this.chunks[Math.floor(i / SIZE)]?.[i % SIZE];
  }

  append(items: readonly T[]): Chain<T> {
    if (items.length === 0) return this;
    const chunks = [...this.chunks];
    const open = this.length % SIZE;
    let from = 0;
    if (open > 0) {
      from = SIZE - open;
      chunks[chunks.length - 1] = [...(chunks.at(-1) as readonly T[]), ...items.slice(0, from)];
    }
    for (let i = from; i < items.length; i += SIZE) chunks.push(items.slice(i, i + SIZE));
    return new Chain(chunks, this.length + items.length);
  }

  /** The first `count` items. */
  take(count: number): Chain<T> {
    if (count >= this.length) return this;
    const chunks = this.chunks.slice(0, Math.ceil(count / SIZE));
    if (count % SIZE > 0) chunks[chunks.length - 1] = (chunks.at(-1) as readonly T[]).slice(0, count % SIZE);
    return new Chain(chunks, Math.max(0, count));
  }

  /** Without the item at an index. */
  without(index: number): Chain<T> {
    return this.take(index).append(this.slice(index + 1));
  }

  /** Items from an index up to another one, as an array's slice. */
  slice(from = 0, to = this.length): T[] {
    const items: T[] = [];
    for (let i = Math.max(0, from); i < Math.min(to, this.length); i++) items.push(this.at(i) as T);
    return items;
  }

  /** Number of leading items that two lists have in common. */
  sharedWith(other: Chain<T>): number {
    const end = Math.min(this.length, other.length);
    let i = 0;
    while (i < end && this.chunks[i / SIZE] === other.chunks[i / SIZE]) i += SIZE;
    i = Math.min(i, end);
    while (i < end && this.at(i) === other.at(i)) i++;
    return i;
  }

  /** Index of the first item of which a thing is true that stays true from then on; the length where it never is. */
  firstIndex(holds: (item: T) => boolean): number {
    let low = 0;
    let high = this.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (holds(this.at(middle) as T)) high = middle;
      else low = middle + 1;
    }
    return low;
  }

  findIndex(wanted: (item: T) => boolean): number {
    for (let i = 0; i < this.length; i++) if (wanted(this.at(i) as T)) return i;
    return -1;
  }

  findLast(wanted: (item: T) => boolean): T | undefined {
    for (let i = this.length - 1; i >= 0; i--) if (wanted(this.at(i) as T)) return this.at(i);
    return undefined;
  }

  *[Symbol.iterator](): Generator<T> {
    for (const chunk of this.chunks) yield* chunk;
  }
}
