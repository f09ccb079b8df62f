/** Coolant, fins and the tube's outside. */
import type { ProcedureSpec } from "#core/rounds";

const MAINS = "Water near mains: dry hands, everything unplugged but what the step names, spills wiped before anything is plugged in.";
const FLOW = "Never fire without coolant flow seen or confirmed.";

export const coolantLevel: ProcedureSpec = {
  id: "coolant-level",
  name: "Coolant, a look",
  area: "cooling",
  station: "coolant",
  when: { cooling: ["chiller", "bucket", "internal"] },
  steps: [
    {
      id: "look",
      kind: "choice",
      minutes: 1,
      title: "Level, colour, bubbles.",
      text: "Level at its mark, water clear, no bubbles passing the tube. Yellow hoses are age, not dirt. Top up with distilled water only.",
      seen: [
        { id: "good", label: "at its mark, clear", grade: 0 },
        { id: "low", label: "was low, topped up", grade: 0 },
        {
          id: "coloured",
          label: "cloudy or coloured",
          grade: 2,
          leads: "Change it: cloudy water is growth or lime on the tube.",
          trace: { check: "water-look", outcome: "cloudy" },
        },
        {
          id: "bubbles",
          label: "bubbles at the tube",
          grade: 2,
          leads: "Tilt them out before anything fires: a bubble is a hot spot on the glass.",
          trace: { check: "bubbles", outcome: "yes" },
        },
      ],
      surface: "coolant-loop",
      agents: [["distilled-water"]],
      caution: MAINS,
      service: "checked",
    },
  ],
};

export const coolantChange: ProcedureSpec = {
  id: "coolant-change",
  name: "Coolant, change",
  area: "cooling",
  station: "coolant",
  when: { cooling: ["chiller", "bucket", "internal"] },
  steps: [
    {
      id: "return-off",
      minutes: 2,
      title: "Pump unplugged, return line into a pail.",
      text: "The return line comes off the tank or chiller and goes into the pail, tied so that it cannot whip.",
      caution: MAINS,
      tools: ["pail"],
    },
    {
      id: "empty",
      minutes: 5,
      title: "Let the pump empty the loop.",
      text: "Only the pump plugged in. Stop it as soon as it draws air: it must not run dry. Then unplug it again.",
      caution: "Coolant only: the machine stays unplugged. Used glycol, biocide and coloured water go by local rules, not down the drain.",
    },
    {
      id: "fill",
      minutes: 6,
      drawing: "fill-order",
      title: "Can it freeze here? Glycol first, then distilled water.",
      text: "No frost, ever: distilled water only. Otherwise propylene glycol: far less toxic than ethylene. Its share is for the coldest night the machine sees, 20 to 50 %. Then distilled water to the mark; tap water leaves lime and conducts.",
      surface: "coolant-loop",
      agents: [["propylene-glycol"], ["distilled-water"]],
      caution: MAINS,
    },
    {
      id: "run",
      minutes: 6,
      drawing: "bubbles",
      title: "Return line on, run, top up, tilt bubbles out.",
      text: "Tug the line. Pump on: once it has filled the tube the level falls, top up. Tilt the machine or the tube's outlet until the last bubble has left. Lid on the bucket.",
      caution: FLOW,
      service: "replaced",
    },
  ],
};

export const antifreeze: ProcedureSpec = {
  id: "antifreeze",
  name: "Antifreeze, check",
  area: "cooling",
  station: "coolant",
  when: { cooling: ["chiller", "bucket", "internal"] },
  steps: [
    {
      id: "share",
      minutes: 3,
      title: "Is it safe for the coldest night?",
      text: "Tester or refractometer: freezing point at least 5 °C below the coldest night in the room. Topped up with water since? Then it is weaker than you think. A frozen tube is a broken tube.",
      tools: ["antifreeze tester"],
      service: "checked",
    },
  ],
};

export const fins: ProcedureSpec = {
  id: "fins",
  name: "Cooling fins",
  area: "cooling",
  station: "fins",
  when: { cooling: ["air"] },
  steps: [
    {
      id: "blow",
      minutes: 6,
      title: "Low-pressure air through the fins.",
      text: "From the clean side, until daylight shows between the fins; vacuum where it comes out. Cool metal lives longer.",
      surface: "fins",
      agents: [["low-pressure-air"]],
      caution: "Touch nothing electrical: the supply stays charged after unplugging. No liquid near it. Mask on.",
      supplies: ["dust mask"],
      service: "cleaned",
    },
  ],
};

export const tubeLook: ProcedureSpec = {
  id: "tube-look",
  name: "Tube, wires and hoses",
  area: "tube",
  station: "tube",
  steps: [
    {
      id: "look",
      kind: "choice",
      minutes: 1,
      title: "Look at the tube, its wires and hoses. Touch nothing.",
      text: "Wires, hoses, cracks, scorch marks at the terminals. Cooling hoses hard or split? A crack or a scorch: photo, and a qualified person. Dust on the outside costs no power: it may stay.",
      caution: "{supply} Look, do not reach in.",
      tools: ["torch"],
      service: "checked",
      seen: [
        { id: "sound", label: "sound", grade: 0 },
        {
          id: "hard",
          label: "a hose hard or split",
          grade: 2,
          leads: "Order the hose, and look at it in every round: a leak here is water at the supply.",
        },
        {
          id: "crack",
          label: "crack or scorch",
          grade: 4,
          leads: "Stop here. Photo, leave it unplugged, and ask the tube's supplier or a qualified person.",
        },
      ],
    },
  ],
};
