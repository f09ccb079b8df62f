/** What is set in the file and on the panel. */
import type { Checks, Faults, Repairs, Signs } from "./definition";
import { FAINT, POWER, PUT_BACK_WRONG, shifts, shows } from "./showing";

export const settingsChecks = {
  "power-limit": {
    title: "Look at the power limit",
    how: "On the panel: at its usual place, or still at test level?",
    kind: "ordinal",
    sight: true,
    minutes: 0.5,
    outcomes: {
      usual: { leak: 0.9985, label: "usual", short: "power limit usual" },
      "left-low": { leak: 0.0015, label: "left low", short: "power limit left low" },
    },
  },
  settings: {
    title: "Compare the settings",
    how: "Speed, power, passes in the file against those that used to cut.",
    kind: "ordinal",
    sight: true,
    minutes: 1,
    outcomes: {
      usual: { leak: 0.97, label: "the usual ones", short: "settings as usual" },
      changed: { leak: 0.03, label: "changed", short: "settings changed" },
    },
  },
  "job-list": {
    title: "Look at the stored jobs",
    how: "On the panel: how many?",
    needs: "settings",
    kind: "ordinal",
    sight: true,
    minutes: 0.5,
    symptom: "housekeeping",
    outcomes: {
      room: { leak: 0.97, label: "room left", short: "job list has room" },
      full: { leak: 0.03, label: "full", short: "job list full" },
    },
  },
} as const satisfies Checks;

export const settingsRepairs = {
  "power-back": { madeSafe: false, name: "Put the power limit back", minutes: 1 },
  "settings-right": { madeSafe: false, name: "Put the settings back", minutes: 2 },
  "clear-job-list": { madeSafe: false, name: "Clear the job list", minutes: 2, parts: ["controller"] },
} as const satisfies Repairs;

export const settingsFaults = {
  "power-left-low": {
    name: "Power limit left low",
    says: "the power limit was left at test level",
    station: "settings",
    lossAt: "tube",
    loss: [0.12, 0.38],
    lossSd: [0.05, 0.16],
    heavyShare: 0.8,
    baseRate: 0.028,
    repair: "power-back",
    reason: "After an aim check the power limit is forgotten at test level.",
    symptoms: POWER,
    effects: {
      ...PUT_BACK_WRONG,
      ...FAINT,
      "power-limit": shows([0.04, 0.96], [0.02, 0.98]),
      "tube-current": [shows([0.3, 0.68, 0.02], [0.08, 0.9, 0.02]), shifts(-2.5, -7, 1.2, 2.5)],
      "tube-mark": shows([0.7, 0.02, 0.28], [0.3, 0.04, 0.66]),
    },
  },
  "settings-wrong": {
    name: "Settings changed",
    says: "speed or power was changed",
    station: "settings",
    loss: [0.12, 0.3],
    lossSd: [0.04, 0.13],
    heavyShare: 0.6,
    baseRate: 0.06,
    repair: "settings-right",
    reason: "A speed, a power or the number of passes was changed in the file or on the panel.",
    symptoms: POWER,
    effects: {
      ...FAINT,
      onset: shows([0.78, 0.04, 0.18], [0.8, 0.03, 0.17]),
      "last-touched": shows([0.7, 0.2, 0.1], [0.7, 0.2, 0.1]),
      "bed-map": shows([0.94, 0.02, 0.02, 0.01, 0.01], [0.94, 0.02, 0.02, 0.01, 0.01]),
      settings: shows([0.07, 0.93], [0.03, 0.97]),
    },
  },
  "job-list-full": {
    name: "Job list full",
    says: "the controller's job list is full",
    station: "settings",
    loss: [0, 0],
    baseRate: 0.015,
    repair: "clear-job-list",
    reason: "Some controllers stop at 99 stored jobs with an odd message.",
    symptoms: { housekeeping: 1 },
    effects: { "job-list": shows([0.02, 0.98], [0.01, 0.99]) },
  },
} satisfies Faults;

export const settingsSigns = {
  "list-full": {
    name: "Controller says no space",
    title: "Controller full",
    symptom: "housekeeping",
    findings: [{ check: "job-list", outcome: "full" }],
  },
} satisfies Signs;
