/** How far a piece of work is and whether it should stop, in memory that both threads see while one of them is busy. */

const SHARE = 0;
const STOP = 1;
const WHOLE = 1_000_000;

export class SharedCourse {
  private readonly cells: Int32Array;

  constructor(readonly memory = new SharedArrayBuffer(8)) {
    this.cells = new Int32Array(memory);
  }

  get share(): number {
    return Atomics.load(this.cells, SHARE) / WHOLE;
  }

  stop(): void {
    Atomics.store(this.cells, STOP, 1);
  }

  readonly isStopped = (): boolean => Atomics.load(this.cells, STOP) === 1;

  readonly wrote = (share: number): void => {
    Atomics.store(this.cells, SHARE, Math.round(share * WHOLE));
  };
}
