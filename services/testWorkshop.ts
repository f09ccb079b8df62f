/** Test support: a workshop with one machine on a real database in a temporary folder, and a clock that tests set. */
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { layouts } from "#catalog/layouts";
import type { Rung } from "#core/cuts";
import type { EventKind, EventPayload } from "#core/events";
import { DAY_MS } from "#core/time";
import type { NewCase } from "#store/cases";
import { openStore, type Store } from "#store/database";
import { appendEvents } from "#store/events";
import { addMachine } from "#store/machines";
import type { SentForm } from "#store/sent";
import type { Services } from "./context";
import { gather } from "./machine/gather";
import type { Gathered } from "./machine/gathered";

export const DAY = DAY_MS;
export const START = Date.parse("2026-10-01T08:00:00Z");

/** A case as it is opened on the twentieth day, with the cut that failed. */
export const WEAK_CASE: NewCase = {
  title: "Suddenly weaker",
  sign: "suddenly-weaker",
  symptom: "power",
  onsetMs: START + 20 * DAY,
  requestKey: "case",
  findings: [{ check: "known-cut", outcome: "part-through" }],
};

export class TestWorkshop {
  private n = 0;
  private constructor(
    readonly store: Store,
    readonly folder: string,
    public nowMs: number,
  ) {}

  static async open(layout = "three-mirror"): Promise<TestWorkshop> {
    const folder = mkdtempSync(join(tmpdir(), "clenor-app-"));
    const store = await openStore(folder);
    const material = { name: "birch ply", kind: "birch-ply", thicknessMm: 3, usualSpeedMmPerS: 14, usualSetPercent: 60 };
    await addMachine(
      store,
      { name: "Larkspur", layout, ratedPowerW: layouts[layout]?.ratedPowerW ?? 80, ratedTubeHours: 3000, tubeHours: 900, material },
      "m",
      START,
    );
    return new TestWorkshop(store, folder, START);
  }

  get services(): Services {
    return { store: this.store, folder: this.folder, nowMs: () => this.nowMs };
  }

  /** A form as it was sent, with a key of its own. */
  sent(form: string): SentForm {
    this.n += 1;
    return { form, key: `sent-${this.n}`, digest: String(this.n) };
  }

  /** Moves the clock to a day after the start. */
  day(days: number): void {
    this.nowMs = START + days * DAY;
  }

  async log<K extends EventKind>(kind: K, payload: EventPayload[K], days = (this.nowMs - START) / DAY): Promise<void> {
    this.n += 1;
    await appendEvents(this.store, 1, [{ kind, atMs: START + days * DAY, payload, requestKey: `t${this.n}` }], this.nowMs);
  }

  /** A ladder at the usual power that dropped up to a speed. */
  async ladder(droppedTo: number, baseline = false): Promise<void> {
    await this.log("ladder", { materialId: 1, setPercent: 60, rungs: rungs(droppedTo), ...(baseline ? { baseline: true } : {}) });
  }

  /** A baseline on the first day and forty hours of firing until the twentieth; the clock stands at the next. */
  static async worked(): Promise<TestWorkshop> {
    const w = await TestWorkshop.open();
    w.day(1);
    await w.ladder(15, true);
    await w.log("hours", { counterHours: 100 }, 1);
    await w.log("hours", { counterHours: 140 }, 20);
    w.day(21);
    return w;
  }

  look(): Promise<Gathered> {
    return gather(this.services, "larkspur");
  }
}

export function rungs(droppedTo: number): Rung[] {
  return Array.from({ length: 12 }, (_, i) => ({ speedMmPerS: 6 + i, end: 6 + i <= droppedTo ? "dropped" : "stays" }) as const);
}

/** Where a figure is broken: not a number, or a word that stands for none. */
export function broken(value: unknown, path = ""): string[] {
  if (typeof value === "number") return Number.isFinite(value) ? [] : [`${path} is ${value}`];
  if (typeof value === "string")
    return /\bNaN\b|\bInfinity\b|\bundefined\b|\bnull\b|\[object/.test(value) ? [`${path}: ${JSON.stringify(value)}`] : [];
  if (value === null || typeof value !== "object" || ArrayBuffer.isView(value)) return [];
  return Object.entries(value).flatMap(([key, of]) => broken(of, `${path}.${key}`));
}
