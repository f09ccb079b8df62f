/** A better plan is looked for once what is told has settled, and only for what still stands. */
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { firstPlan, type PlanInstance } from "#core/plan";
import { gather } from "../machine/gather";
import { TestWorkshop } from "../testWorkshop";
import { planned, plansMade } from "./planned";

describe("the search for a better plan", () => {
  beforeEach(() => void vi.useFakeTimers({ toFake: ["setTimeout"] }));
  afterEach(() => void vi.useRealTimers());

  it("waits until a burst of entries is over, then looks once, and its find stands", async () => {
    const w = await TestWorkshop.worked();
    const asked: PlanInstance[] = [];
    const planner = async (instance: PlanInstance) => {
      asked.push(instance);
      return firstPlan(instance);
    };
    const services = { ...w.services, planner };
    for (const counterHours of [141, 142, 143]) {
      await w.log("hours", { counterHours });
      planned(services, await gather(services, "larkspur"));
      await vi.advanceTimersByTimeAsync(1000);
    }
    expect(asked).toHaveLength(0);
    await vi.advanceTimersByTimeAsync(5000);
    expect(asked).toHaveLength(1);
    expect(plansMade(w.store)).toBe(1);
    expect(planned(services, await gather(services, "larkspur")).isLeast).toBe(true);
  });
});
