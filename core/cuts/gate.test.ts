import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Job, neededLnRatio, shareForSure, sureSpeed, throughProbability, waysOn } from "#core/cuts";
import { seededRandom } from "#core/random";

const known = { lnRatio: -0.1, sd: 0.04 };
const job: Job = { lnNeed: Math.log(0.92), beta: 1, passes: 1, cutMinutes: 6, lostMinutes: 40, lostMoney: 12, moneyPerHour: 30 };

describe("will it cut through?", () => {
  it("gives the reference values", () => {
    expect(throughProbability(known, Math.log(0.92))).toBeCloseTo(0.398, 3);
    expect(throughProbability(known, Math.log(0.92 * 0.92))).toBeCloseTo(0.851, 3);
  });

  it("needs more for a faster cut, less for more power or another pass", () => {
    const base = { v50: 15, setPercent: 60 };
    const need = (speedMmPerS: number, setPercent: number, passes: number) =>
      Math.exp(neededLnRatio({ speedMmPerS, setPercent, passes }, base, 1));
    expect(need(15, 60, 1)).toBeCloseTo(1, 9);
    expect(need(12, 60, 1)).toBeCloseTo(0.8, 9);
    expect(need(15, 75, 1)).toBeCloseTo(0.8, 9);
    expect(need(15, 60, 2)).toBeCloseTo(0.5, 9);
  });

  it("slows to where 98 % drop, and no further", () => {
    fc.assert(
      fc.property(fc.double({ min: -0.5, max: 0.1, noNaN: true }), fc.double({ min: 0.01, max: 0.15, noNaN: true }), (lnRatio, sd) => {
        const share = shareForSure({ lnRatio, sd }, job);
        const through = throughProbability({ lnRatio, sd }, job.lnNeed + Math.log(share));
        expect(through).toBeGreaterThan(0.9799);
        if (share < 1) expect(through).toBeLessThan(0.9801);
      }),
    );
  });

  it("puts the cheapest way first, and counts what each takes and risks", () => {
    const ways = waysOn(known, job, { lnGain: 0.05, minutes: 12 });
    expect(ways.map((w) => w.id).sort()).toEqual(["as-is", "clean", "pass", "slower", "test"]);
    for (let i = 1; i < ways.length; i++) expect(ways[i]?.cost).toBeGreaterThanOrEqual(ways[i - 1]?.cost as number);
    const asIs = ways.find((w) => w.id === "as-is");
    expect(asIs?.minutes).toBeCloseTo((1 - 0.398) * 40, 0);
    // A slower cut of six minutes against forty minutes at stake: never start it as it is.
    expect(ways[0]?.id).toBe("slower");
    // With nothing at stake and power to spare there is nothing to do first.
    expect(waysOn({ lnRatio: 0.2, sd: 0.02 }, { ...job, lostMinutes: 0, lostMoney: 0 })[0]).toMatchObject({ id: "as-is" });
  });

  it("weighs a test cut as a machine of that power would answer it", () => {
    const random = seededRandom(3);
    const runs = 200_000;
    let [through, minutes] = [0, 0];
    const failed: number[] = [];
    const drops = (lnRatio: number, lnNeed: number) => lnRatio + 0.05 * random.normal() > lnNeed;
    const powers = Array.from({ length: runs }, () => known.lnRatio + known.sd * random.normal());
    for (const lnRatio of powers) {
      if (!drops(lnRatio, job.lnNeed)) failed.push(lnRatio);
      else if (drops(lnRatio, job.lnNeed)) through++;
      else minutes += job.lostMinutes;
    }
    const mean = failed.reduce((a, b) => a + b, 0) / failed.length;
    const sd = Math.sqrt(failed.reduce((a, b) => a + (b - mean) ** 2, 0) / failed.length);
    const share = shareForSure({ lnRatio: mean, sd }, job);
    for (const lnRatio of failed) {
      minutes += job.cutMinutes * (1 / share - 1);
      if (drops(lnRatio, job.lnNeed + Math.log(share))) through++;
      else minutes += job.lostMinutes;
    }
    const test = waysOn(known, job).find((w) => w.id === "test");
    expect(test?.through).toBeCloseTo(through / runs, 2);
    expect(Math.abs((test?.minutes as number) - 2 - minutes / runs)).toBeLessThan(0.3);
  });

  it("has a speed at which it surely drops, and the gate agrees", () => {
    const base = { v50: 15, setPercent: 60 };
    fc.assert(
      fc.property(
        fc.double({ min: -0.5, max: 0.1, noNaN: true }),
        fc.integer({ min: 10, max: 100 }),
        fc.integer({ min: 1, max: 4 }),
        (lnRatio, setPercent, passes) => {
          const power = { lnRatio, sd: 0.05 };
          const speedMmPerS = sureSpeed(power, { setPercent, passes }, base, 1.2);
          expect(throughProbability(power, neededLnRatio({ speedMmPerS, setPercent, passes }, base, 1.2), 1.2)).toBeCloseTo(0.98, 4);
        },
      ),
    );
  });
});
