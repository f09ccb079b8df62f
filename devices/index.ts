/**
 * The bench: what outside devices give, behind one small interface. Only stand-ins ship with the application, simulated from the practice
 * machine; they say so wherever they are offered, and nothing of them is kept unless its owner keeps it.
 */
import type { LayoutId } from "#core/machine";
import { BenchMachine, SIMULATED_PATHS } from "#core/practice";
import { type ProbeSample, slugTemperature } from "#core/probe";
import { seededRandom } from "#core/random";

export interface BenchReadings {
  readonly hours: { readonly counterHours: number };
  readonly current: { readonly currentMa: number; readonly setPercent: number };
  readonly coolant: { readonly temperatureC: number; readonly flowLpm: number };
}
export type BenchDevice = keyof BenchReadings;
export const BENCH_DEVICES = ["hours", "current", "coolant"] as const satisfies readonly BenchDevice[];

export interface ProbeWishes {
  readonly station: string;
  readonly setPercent: number;
  readonly heatS: number;
  readonly tailS: number;
  readonly ambientC: number;
  readonly massG: number;
}

export interface Bench {
  /** Reads a device once. Undefined where the machine has none such. */
  read<D extends BenchDevice>(device: D): Promise<BenchReadings[D] | undefined>;
  /** A probe run, sample by sample as the thermometer gives them; ends early when the signal says so. */
  probe(wishes: ProbeWishes, signal: AbortSignal): AsyncGenerator<ProbeSample>;
}

/** What the practice machine takes over from a real one's log. */
export interface PracticeState {
  readonly seed: number;
  readonly layout: LayoutId;
  readonly ratedPowerW: number;
  readonly tubeHours: number;
  /** Firing hours since the counter was last read. */
  readonly sinceReadingHours: number;
  readonly counterHours: number;
  /** Smoke since each station was cleaned, ply-hours. */
  readonly doses: ReadonlyMap<string, number>;
  readonly hasCoolant: boolean;
}

const TIME_CONSTANT_S = 240;
/** A run of a minute and a half is shown in some seconds. */
const TIMES_FASTER = 20;
const tenth = (value: number) => Math.round(value * 10) / 10;

export function practiceBench(state: PracticeState): Bench {
  const random = seededRandom(state.seed);
  const path = SIMULATED_PATHS[state.layout];
  const machine = new BenchMachine(random, state.ratedPowerW * 0.98, 0, path);
  machine.tubeHours = state.tubeHours;
  for (const s of path) machine.add(s.id, s.foulingPerPlyHour * (state.doses.get(s.id) ?? 0));
  const readings: { readonly [D in BenchDevice]: () => BenchReadings[D] | undefined } = {
    hours: () => ({ counterHours: tenth(state.counterHours + state.sinceReadingHours) }),
    current: () => ({ currentMa: tenth(22 - 0.0006 * state.tubeHours + 0.2 * random.normal()), setPercent: 100 }),
    coolant: () =>
      state.hasCoolant ? { temperatureC: tenth(20.6 + 0.5 * random.normal()), flowLpm: tenth(2 + 0.05 * random.normal()) } : undefined,
  };
  return {
    read: async (device) => readings[device](),
    async *probe({ station, setPercent, heatS, tailS, ambientC, massG }, signal) {
      const powerW = (machine.readPower(station, 0.01 * random.normal()) * setPercent) / 100;
      for (let s = 0; s <= heatS + tailS && !signal.aborted; s++) {
        yield { s, c: tenth(slugTemperature({ heatS, ambientC, massG }, powerW, TIME_CONSTANT_S, s) + 0.06 * random.normal()) };
        await new Promise((done) => setTimeout(done, 1000 / TIMES_FASTER));
      }
    },
  };
}
