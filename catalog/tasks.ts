/** How often, by use: the school Clenor starts with. Amounts are starting values; learning from as-found grades comes later. */
import type { TaskRule } from "#core/schedule";

export interface Task extends TaskRule {
  readonly name: string;
  readonly does: string;
  readonly reason: string;
}

export const threeMirrorTasks: readonly Task[] = [
  {
    id: "lens",
    station: "lens",
    name: "Lens",
    does: "look, then clean",
    every: { plyHours: 8 },
    minutes: 5,
    access: "head",
    reason: "Nearest to the smoke: about 8 h of firing in ply.",
  },
  {
    id: "mirror-3",
    station: "mirror-3",
    name: "M3 in head",
    does: "clean in place",
    every: { plyHours: 16 },
    minutes: 2.5,
    access: "head",
    reason: "Every other day of use.",
  },
  {
    id: "nozzle",
    station: "nozzle",
    name: "Nozzle",
    does: "swab and gauge",
    every: { plyHours: 16 },
    minutes: 2,
    access: "head",
    reason: "With the head apart anyway; acrylic gums it fast.",
  },
  {
    id: "mirror-2",
    station: "mirror-2",
    name: "M2",
    does: "look, clean in place",
    every: { plyHours: 40 },
    minutes: 4.5,
    access: "gantry",
    reason: "On the gantry, in the drift of the smoke.",
  },
  {
    id: "mirror-1",
    station: "mirror-1",
    name: "M1",
    does: "look, clean in place",
    every: { plyHours: 40 },
    minutes: 4.5,
    access: "rear",
    reason: "At the back: slower, but it is seldom looked at.",
  },
  {
    id: "window",
    station: "window",
    name: "Exit window",
    does: "look, clean if hazed",
    every: { firingHours: 120 },
    minutes: 4.5,
    access: "rear",
    reason: "Far from the smoke; a burnt window is a new tube.",
  },
  {
    id: "rails",
    station: "motion",
    name: "Rails and belts",
    does: "wipe",
    every: { firingHours: 40 },
    minutes: 10,
    access: "motion",
    reason: "Film and crumbs gather at the ends of travel.",
  },
  {
    id: "exhaust",
    station: "exhaust",
    name: "Fan and duct",
    does: "clean",
    every: { firingHours: 160 },
    minutes: 20,
    access: "exhaust",
    reason: "Until airflow is measured, by hours.",
  },
  {
    id: "coolant",
    station: "coolant",
    name: "Coolant",
    does: "change",
    every: { days: 182 },
    minutes: 35,
    access: "coolant",
    reason: "Closed chiller: twice a year.",
  },
];
