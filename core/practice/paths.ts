import type { LayoutId } from "#core/machine";
import type { SimulatedStation } from "./machine";

const station = (id: string, transmission: number, foulingPerPlyHour: number): SimulatedStation => ({
  id,
  transmission,
  foulingPerPlyHour,
});

/** What the simulator's machines are truly like, by layout, along the beam after the tube. Not what the engine assumes. */
export const SIMULATED_PATHS: Readonly<Record<LayoutId, readonly SimulatedStation[]>> = {
  "three-mirror": [
    station("window", 1, 0.00012),
    station("mirror-1", 0.985, 0.00042),
    station("mirror-2", 0.985, 0.00062),
    station("mirror-3", 0.985, 0.0013),
    station("lens", 0.975, 0.0028),
    station("nozzle", 1, 0.0009),
  ],
  "moving-head": [
    station("window", 1, 0.00018),
    station("side-window", 0.985, 0.0011),
    station("mirror-1", 0.985, 0.0003),
    station("lens", 0.975, 0.0024),
    station("nozzle", 1, 0.0009),
  ],
  periscope: [
    station("window", 1, 0.0001),
    station("mirror-1", 0.985, 0.00012),
    station("mirror-2", 0.985, 0.00014),
    station("side-window", 0.985, 0.0002),
    station("mirror-3", 0.985, 0.0006),
    station("mirror-4", 0.985, 0.0014),
    station("lens", 0.975, 0.0027),
    station("nozzle", 1, 0.0009),
  ],
};
