import { describe, expect, it } from "vitest";
import { fitProbe } from "#core/probe";
import { BENCH_DEVICES, type PracticeState, practiceBench } from ".";

const state: PracticeState = {
  seed: 4,
  layout: "three-mirror",
  ratedPowerW: 80,
  tubeHours: 1500,
  sinceReadingHours: 3.2,
  counterHours: 1500,
  doses: new Map([["lens", 8]]),
  hasCoolant: true,
};
const wishes = { station: "lens", setPercent: 100, heatS: 30, tailS: 40, ambientC: 22, massG: 100 };

describe("the practice bench", () => {
  it("goes on from the last counter reading, jitters from moment to moment, and lacks what the machine lacks", async () => {
    const bench = practiceBench(state);
    expect(await bench.read("hours")).toEqual({ counterHours: 1503.2 });
    for (const device of BENCH_DEVICES)
      for (const value of Object.values((await bench.read(device)) ?? {})) expect(value).toBeGreaterThan(0);
    expect(await practiceBench({ ...state, hasCoolant: false }).read("coolant")).toBeUndefined();
    expect(await practiceBench(state).read("current")).toEqual(await practiceBench(state).read("current"));
  });

  it("runs a probe that the fit can read, weaker behind a dirty lens; a run that is cancelled ends at once", async () => {
    const run = async (dose: number) => {
      const samples = [];
      for await (const sample of practiceBench({ ...state, doses: new Map([["lens", dose]]) }).probe(wishes, new AbortController().signal))
        samples.push(sample);
      const read = fitProbe({ ...wishes, samples });
      return read.kind === "power" ? read.powerW : Number.NaN;
    };
    const [clean, dirty] = await Promise.all([run(0), run(60)]);
    expect(clean).toBeGreaterThan(45);
    expect(clean).toBeLessThan(80);
    expect(dirty).toBeLessThan(clean);
    const control = new AbortController();
    let count = 0;
    for await (const _ of practiceBench(state).probe(wishes, control.signal)) if (++count === 3) control.abort();
    expect(count).toBe(3);
  }, 20_000);
});
