/** Coolant, fins and the tube's outside. */
import type { ProcedureSpec } from "#core/rounds";

const MAINS =
  "Water is near mains. Dry your hands, unplug everything except what this step names, and wipe up spills before you plug anything in.";
const LIVE = "Water is near mains. Dry your hands, touch nothing electrical, and wipe up spills at once.";
const WET = { cooling: ["chiller", "bucket", "internal"] } as const;

/** Looked at while the pump runs: with everything unplugged there are no bubbles to see. */
export const coolantLevel: ProcedureSpec = {
  id: "coolant-level",
  name: "Coolant, inspection",
  area: "running",
  station: "coolant",
  mendedBy: ["coolant-change"],
  when: WET,
  steps: [
    {
      id: "look",
      kind: "choice",
      minutes: 1,
      title: "Inspect the coolant: level, colour, bubbles.",
      text: "The pump runs and the beam is off. The level is at its mark, the water clear, and no bubbles pass the tube. Yellow hoses are age, not dirt. Top up with distilled water only.",
      seen: [
        { id: "good", label: "at its mark, clear", grade: 0 },
        { id: "low", label: "was low, topped up", grade: 0 },
        {
          id: "coloured",
          label: "cloudy or coloured",
          grade: 2,
          leads: "Change it: cloudy water is growth or lime on the tube. Trace starts with this.",
          trace: { check: "water-look", outcome: "cloudy" },
        },
        {
          id: "bubbles",
          label: "bubbles at the tube",
          grade: 2,
          stops: "machine",
          leads: "Do not fire: a bubble is a hot spot on the glass. Tilt them out with the pump running. Trace starts with this.",
          trace: { check: "bubbles", outcome: "yes" },
        },
      ],
      surface: "coolant-loop",
      agents: [["distilled-water"]],
      caution: LIVE,
      service: "checked",
    },
  ],
};

export const coolantChange: ProcedureSpec = {
  id: "coolant-change",
  name: "Coolant, change",
  area: "cooling",
  station: "coolant",
  when: WET,
  steps: [
    {
      id: "return-off",
      minutes: 2,
      title: "Unplug the pump, and lead the return line into a pail.",
      text: "Take the return line off the tank or chiller and tie it into the pail, so that it cannot whip.",
      caution: MAINS,
      tools: ["pail"],
      leaves: { out: "return line" },
    },
    {
      id: "empty",
      minutes: 5,
      when: { cooling: ["chiller", "bucket"] },
      title: "Let the pump empty the loop.",
      text: "Plug in the pump alone. Stop it as soon as it draws air: it must not run dry. Then unplug it again.",
      caution:
        "Only the coolant pump may have power. Keep the machine unplugged. Used glycol, biocide and coloured water go by local rules, not down the drain.",
      needs: { out: ["return line"] },
    },
    {
      id: "drain",
      minutes: 8,
      when: { cooling: ["internal"] },
      title: "Drain the loop the way the maker's manual says.",
      text: "Its pump does not run while the machine is unplugged: use the drain plug or the lowest hose. Let it run into the pail until nothing more comes.",
      caution: `${MAINS} Used glycol, biocide and coloured water go by local rules, not down the drain.`,
      needs: { out: ["return line"] },
    },
    {
      id: "fill",
      minutes: 6,
      drawing: "fill-order",
      title: "If it can freeze here, propylene glycol first. Then distilled water.",
      text: "If it never freezes here, use distilled water only. Otherwise pour in propylene glycol first: it is far less toxic than ethylene glycol. Its share is for the coldest night the machine sees, 20 to 50 %. Then fill up to the mark with distilled water: tap water leaves lime and conducts.",
      surface: "coolant-loop",
      agents: [["propylene-glycol"], ["distilled-water"]],
      caution: MAINS,
    },
    {
      id: "return-on",
      minutes: 1,
      title: "Put the return line back on and tug it.",
      text: "It must hold. Wipe up what was spilt before anything is plugged in.",
      caution: MAINS,
      leaves: { back: "return line" },
    },
    {
      id: "run",
      minutes: 6,
      drawing: "bubbles",
      title: "Run the pump with the laser disarmed, top up, and tilt the bubbles out.",
      text: "Once the pump has filled the tube the level falls: top it up. Tilt the machine or the tube's outlet until the last bubble has left. Put the lid on the bucket.",
      caution: `Never fire without coolant flow seen or confirmed. ${LIVE}`,
      needs: { power: "on" },
      service: "replaced",
    },
  ],
};

export const antifreeze: ProcedureSpec = {
  id: "antifreeze",
  name: "Antifreeze, check",
  area: "cooling",
  station: "coolant",
  when: WET,
  steps: [
    {
      id: "share",
      minutes: 3,
      title: "Is it safe for the coldest night?",
      text: "Test a sample with a tester or refractometer: its freezing point must be at least 5 °C below the coldest night in the room. If you topped it up with water since, it is weaker than you think. A frozen tube is a broken tube.",
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
      title: "Blow low-pressure air through the fins.",
      text: "Blow from the clean side until you see daylight between the fins, and vacuum where the dust comes out. Cool metal lives longer.",
      surface: "fins",
      agents: [["low-pressure-air"]],
      caution: "Touch nothing electrical: it holds a charge even when it is unplugged. Keep liquid away. Put a mask on.",
      gear: ["dust mask"],
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
      title: "Inspect the tube, its wires and hoses. Touch nothing.",
      text: "Look for cracks, for scorch marks at the terminals, and for hoses that are hard or split. Dust on the outside costs no power: it may stay.",
      caution: "{supply} Look, do not reach in.",
      tools: ["torch"],
      service: "checked",
      seen: [
        { id: "sound", label: "sound", grade: 0 },
        {
          id: "hard",
          label: "a hose hard or split",
          grade: 2,
          leads: "Order the hose, and inspect it in every round: a leak here is water at the power supply.",
        },
        {
          id: "crack",
          label: "crack or scorch",
          grade: 4,
          stops: "machine",
          leads: "Stop here. Take a photo, leave the machine unplugged, and ask the tube's supplier or a qualified person.",
        },
      ],
    },
  ],
};
