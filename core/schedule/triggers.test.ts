/** What makes a task due besides hours, smoke and days: each trigger on a log that has it, and not before. */
import { describe, expect, it } from "vitest";
import { type EventKind, type EventPayload, logOf, type MachineEvent } from "#core/events";
import { DAY_MS } from "#core/time";
import { dueTasks, type Every, type TaskRule, usageFrom } from ".";

let id = 0;
const told = <K extends EventKind>(kind: K, day: number, payload: EventPayload[K]) =>
  ({ id: ++id, kind, atMs: day * DAY_MS, payload }) as MachineEvent;
const job = (day: number) => told("job", day, { materialId: 1, minutes: 30 });
const air = (day: number, ductSpeedMps: number, baseline?: true) =>
  told("airflow", day, { ductSpeedMps, ...(baseline ? { baseline } : {}) });
const service = (day: number, station: string, what: EventPayload["service"]["what"], task?: string) =>
  told("service", day, { station, what, ...(task ? { task } : {}) });

const RULE: TaskRule = { id: "own", station: "motion", every: {}, minutes: 5, access: "motion", tasks: ["own"], plain: false };
const stateAt = (every: Every, events: readonly MachineEvent[], day: number, rule: Partial<TaskRule> = {}) => {
  const log = logOf([...events]);
  const smoke = new Map([[1, { optics: 1, nozzle: 1, filter: 1 }]]);
  const [task] = dueTasks([{ ...RULE, ...rule, every }], log, usageFrom(log, day * DAY_MS, smoke), 0, day * DAY_MS);
  if (!task) throw new RangeError("no task");
  return task;
};

describe("a task falls due", () => {
  it("after so many jobs since it was done", () => {
    const jobs = [1, 2, 3, 4].map(job);
    expect(stateAt({ jobs: 4 }, jobs.slice(0, 3), 5)).toMatchObject({ state: "soon", left: { amount: 1, unit: "jobs" } });
    expect(stateAt({ jobs: 4 }, jobs, 5)).toMatchObject({ state: "due" });
    expect(stateAt({ jobs: 4 }, [...jobs, service(4.5, "motion", "cleaned", "own")], 5)).toMatchObject({ used: 0 });
  });

  it("with every n-th time of another", () => {
    const times = [1, 2, 3, 4].map((d) => service(d, "motion", "cleaned", "rails"));
    const every = { nth: { station: "motion", task: "rails", times: 4 } };
    expect(stateAt(every, times.slice(0, 3), 5).state).toBe("soon");
    expect(stateAt(every, times, 5).state).toBe("due");
    expect(stateAt(every, [...times, service(4.5, "motion", "cleaned", "own")], 5).used).toBe(0);
  });

  it("when the air has lost so much of its clean speed, read after it was last done", () => {
    const every = { firingHours: 160, airflowLoss: 0.15 };
    expect(stateAt(every, [air(1, 6, true), air(3, 5.3)], 4).state).toBe("ahead");
    expect(stateAt(every, [air(1, 6, true), air(3, 5)], 4)).toMatchObject({ state: "due", left: { unit: "airflow" } });
    expect(stateAt(every, [air(1, 6, true), air(3, 5), service(3.5, "motion", "cleaned", "own")], 4).state).toBe("ahead");
    expect(stateAt(every, [air(3, 1)], 4).state).toBe("ahead");
  });

  it("after a new part, and after a mount was opened until somebody looked", () => {
    const lens = service(2, "lens", "replaced");
    expect(stateAt({ afterNew: ["tube", "lens"] }, [], 4)).toMatchObject({ used: 0, dueMs: undefined });
    expect(stateAt({ afterNew: ["tube", "lens"] }, [lens], 4)).toMatchObject({ state: "due", left: { unit: "new-part" } });
    expect(stateAt({ afterNew: ["tube"] }, [lens], 4).state).toBe("ahead");
    const opened = service(2, "mirror-1", "seat-opened");
    expect(stateAt({ afterOpened: true }, [opened], 4)).toMatchObject({ state: "due", left: { unit: "opened" } });
    expect(stateAt({ afterOpened: true }, [opened, told("grade", 3, { station: "own", phase: "as-found", grade: 0 })], 4).state).toBe(
      "ahead",
    );
  });

  it("by whichever of its limits is used up first, and by none that only may happen", () => {
    const every = { days: 10, jobs: 4, afterNew: ["lens"] };
    expect(stateAt(every, [job(1)], 9).left.unit).toBe("days");
    expect(stateAt(every, [1, 2, 3].map(job), 4).left.unit).toBe("jobs");
    expect(stateAt(every, [], 4).spent.map((s) => s.unit)).toEqual(["days", "jobs"]);
  });
});
