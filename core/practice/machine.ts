import type { Grade } from "#core/beam";
import type { Random } from "#core/random";

/** A station as the simulator knows it: what a clean one passes, and how fast it fouls (ln power per ply-hour). The machine's own truth. */
export interface SimulatedStation {
  readonly id: string;
  readonly transmission: number;
  readonly foulingPerPlyHour: number;
}

const AGEING_PER_HOUR = 1.22e-4;
/** Share of the dirt that a clean leaves behind. */
const LEFT_BEHIND = 0.06;

/** A lasting disturbance: where light goes missing, or what only the cut feels. */
export interface Disturbance {
  readonly station: string;
  readonly lnLoss: number;
  /** Felt by cuts alone (focus, air), not by a power meter. */
  readonly cutOnly: boolean;
}

/** A simulated machine: true state, and noisy answers about it. */
export class BenchMachine {
  private readonly dirt = new Map<string, number>();
  private readonly disturbances = new Map<string, Disturbance>();
  tubeHours: number;
  private readonly startHours: number;

  constructor(
    private readonly random: Random,
    private readonly tubePowerW: number,
    tubeHours: number,
    /** After the tube, along the beam, the nozzle included. */
    private readonly stations: readonly SimulatedStation[],
  ) {
    this.tubeHours = tubeHours;
    this.startHours = tubeHours;
    for (const station of stations) this.dirt.set(station.id, 0.001);
  }

  /** Stations light has passed once it is after a given one; none for the tube. */
  private upTo(station: string): readonly SimulatedStation[] {
    return this.stations.slice(0, this.stations.findIndex((s) => s.id === station) + 1);
  }

  /** Fires for some hours in a material with the given smoke per hour; dirt comes in uneven helpings. */
  fire(hours: number, opticsSmoke: number, nozzleSmoke: number): void {
    this.tubeHours += hours;
    for (const { id, foulingPerPlyHour } of this.stations) {
      const smoke = hours * (id === "nozzle" ? nozzleSmoke : opticsSmoke);
      this.add(id, foulingPerPlyHour * smoke * Math.exp(0.5 * this.random.normal()));
    }
  }

  clean(station: string): void {
    this.dirt.set(station, (this.dirt.get(station) ?? 0) * LEFT_BEHIND);
  }

  /** Extra dirt at a station, in ln power. */
  add(station: string, lnLoss: number): void {
    this.dirt.set(station, (this.dirt.get(station) ?? 0) + lnLoss);
  }

  disturb(name: string, disturbance: Disturbance): void {
    this.disturbances.set(name, disturbance);
  }

  mend(name: string): void {
    this.disturbances.delete(name);
  }

  /** True ln loss of light after a station. */
  private lnLossAfter(station: string): number {
    const passed = this.upTo(station);
    let loss = AGEING_PER_HOUR * (this.tubeHours - this.startHours);
    for (const s of passed) loss += this.dirt.get(s.id) ?? 0;
    for (const d of this.disturbances.values()) if (!d.cutOnly && passed.some((s) => s.id === d.station)) loss += d.lnLoss;
    return loss;
  }

  /** True effective power against a new, clean machine. */
  effective(): number {
    let loss = this.lnLossAfter(this.stations.at(-1)?.id ?? "tube");
    for (const d of this.disturbances.values()) if (d.cutOnly) loss += d.lnLoss;
    return Math.exp(-loss);
  }

  /** A watt reading after a station: the meter's shared error of the day, and the reading's own. */
  readPower(station: string, sharedError: number): number {
    const nominal = this.upTo(station).reduce((product, s) => product * s.transmission, 1);
    const watts = this.tubePowerW * nominal * Math.exp(-this.lnLossAfter(station) + sharedError + 0.012 * this.random.normal());
    return Math.round(watts * 10) / 10;
  }

  /** How the rungs of a ladder end, for a sheet whose shapes drop up to `v50Clean` on a perfect machine. */
  cutLadder(speeds: readonly number[], v50Clean: number): { speedMmPerS: number; end: "dropped" | "hangs" | "stays" }[] {
    // Sheets differ a little, the whole ladder along.
    const v50 = v50Clean * this.effective() * Math.exp(0.025 * this.random.normal());
    return speeds.map((speedMmPerS) => {
      const margin = Math.log(v50 / speedMmPerS) + 0.03 * this.random.normal();
      return { speedMmPerS, end: margin > 0.022 ? "dropped" : margin > -0.022 ? "hangs" : "stays" };
    });
  }

  /** What a person with a torch would call a station's state; off by one grade now and then. */
  look(station: string): Grade {
    const loss = this.dirt.get(station) ?? 0;
    const limits = [0.008, 0.045, 0.13, 0.4];
    const true_ = limits.findIndex((l) => loss < l);
    const seen = true_ < 0 ? 4 : true_;
    const slip = this.random.uniform();
    const shown = slip < 0.05 ? seen - 1 : slip > 0.96 && seen < 3 ? seen + 1 : seen;
    return Math.min(4, Math.max(0, shown)) as Grade;
  }
}
