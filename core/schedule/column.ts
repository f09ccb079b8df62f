/**
 * Numbers by index that are only ever added to at their end. A longer column shares the memory of the one it was made from, which never
 * looks beyond its own length; a second one made from the same gets memory of its own.
 */
interface Memory {
  data: Float64Array;
  used: number;
}

const LEAST = 64;

export class Column {
  private constructor(
    private readonly memory: Memory,
    readonly length: number,
  ) {}

  static readonly EMPTY = new Column({ data: new Float64Array(0), used: 0 }, 0);

  /** The number at an index within the length. */
  at(index: number): number {
    return this.memory.data[index]!;
  }

  /** The first `keep` numbers, to be written on from there with `add`. */
  from(keep: number): ColumnWriter {
    return new ColumnWriter(this.memory, Math.min(keep, this.length));
  }

  /** Number of leading numbers at or before a limit, in a column that rises. */
  countUpTo(limit: number): number {
    const { data } = this.memory;
    let low = 0;
    let high = this.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (data[middle]! <= limit) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  static of(memory: Memory, length: number): Column {
    return new Column(memory, length);
  }
}

/** A column while it is written. */
export class ColumnWriter {
  private memory: Memory;
  length: number;

  constructor(memory: Memory, keep: number) {
    this.length = keep;
    // Beyond its end a column may be written on by one only; what others see stays as it is.
    this.memory = memory.used === keep ? memory : { data: memory.data.slice(0, Math.max(LEAST, keep)), used: keep };
  }

  at(index: number): number {
    return this.memory.data[index]!;
  }

  last(): number {
    return this.length === 0 ? 0 : this.at(this.length - 1);
  }

  add(value: number): void {
    const { memory } = this;
    if (this.length >= memory.data.length) {
      const data = new Float64Array(Math.max(LEAST, Math.ceil(1.5 * memory.data.length)));
      data.set(memory.data);
      // The old memory stays with those who read it; this one goes on in its own.
      this.memory = { data, used: memory.used };
    }
    this.memory.data[this.length] = value;
    this.length += 1;
    this.memory.used = this.length;
  }

  done(): Column {
    return Column.of(this.memory, this.length);
  }
}
