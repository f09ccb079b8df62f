/** Assist air and exhaust: fans, duct, filters. */
import type { ProcedureSpec } from "#core/rounds";

const FAN = "Fan unplugged. Hold the blade; edges of duct and housing cut.";

export const assistAir: ProcedureSpec = {
  id: "air",
  name: "Assist air",
  area: "air",
  station: "air",
  steps: [
    {
      id: "hose",
      minutes: 1,
      when: { movingHead: false },
      drawing: "collar",
      title: "Hose off, swab its end, hose on, tug it.",
      text: "Press the collar in, pull the hose straight off. Swab the end, look through it against the torch: gum inside means a new piece. In again until it stops, then tug: it must hold. No kink where the carriage turns.",
      surface: "nozzle-metal",
      agents: [["isopropyl"], ["fresh-swab"]],
      service: "cleaned",
    },
    {
      id: "shroud",
      minutes: 3,
      when: { extra: ["air-fan"] },
      drawing: "screws",
      title: "Carriage plate and shroud off.",
      text: "They hide the assist-air fan. Note which screw is the long one. Blades with the brush, both sides; nothing wet near the motor.",
      surface: "fan",
      agents: [["soft-brush", "rubber-bulb"]],
      caution: "Machine unplugged. Do not spin the fan with an air can: it generates.",
      tools: ["screwdriver"],
    },
    {
      id: "filter",
      minutes: 1.5,
      when: { extra: ["air-pump"] },
      title: "Clean the pump's filter.",
      text: "Pump unplugged. Felt or foam out, tap and brush it, back in dry. Hard or torn: replace it.",
      surface: "fan",
      agents: [["soft-brush"], ["vacuum"]],
      supplies: ["spare pump filter"],
    },
    {
      id: "shroud-on",
      minutes: 1.5,
      when: { movingHead: true },
      title: "Shroud and plate back on.",
      text: "No cable under the shroud. Long screw where it was.",
      tools: ["screwdriver"],
      service: "cleaned",
    },
  ],
};

/** Needs the machine whole: the flow is felt or measured with the covers on. */
export const airFeel: ProcedureSpec = {
  id: "air-feel",
  name: "Assist air, feel it",
  area: "running",
  station: "air",
  steps: [
    {
      id: "feel",
      kind: "choice",
      minutes: 0.5,
      title: "Feel the air at the nozzle.",
      text: "Air on, beam off. A firm stream on a wetted fingertip a finger's width below the nozzle, or the figure of a flow meter in the hose. Weak air means smoke and flame at the cut.",
      caution: "Beam off, nothing queued. A nozzle that was just cutting can be hot: hover first.",
      service: "checked",
      seen: [
        { id: "firm", label: "firm", grade: 0 },
        {
          id: "weak",
          label: "weak",
          grade: 2,
          leads: "Hose end, pump filter or head fan: the line is cleaned next, and Trace starts with this.",
          trace: { check: "air-feel", outcome: "weak" },
        },
        {
          id: "none",
          label: "none",
          grade: 3,
          leads: "Do not cut without air: flame at the nozzle. Is the pump running, the hose on?",
          trace: { check: "air-feel", outcome: "none" },
        },
      ],
    },
  ],
};

export const headFan: ProcedureSpec = {
  id: "head-fan",
  name: "Head fan",
  area: "air",
  station: "head-fan",
  when: { extra: ["head-fan"] },
  steps: [
    {
      id: "found",
      kind: "grade",
      phase: "as-found",
      service: "checked",
      minutes: 0.5,
      title: "Look into the head fan, behind its shroud.",
      text: "A clogged head fan makes the machine stop to cool. Felt on the blades or a closed guard counts as film.",
    },
    {
      id: "clean",
      minutes: 4,
      asked: [{ step: "found", grades: [1, 3] }],
      title: "Brush the blades, both sides.",
      text: "Carriage plate and shroud off to reach it. Loose dust first, then a rag on each blade. Spin it with a finger: no wobble, no rubbing.",
      surface: "fan",
      agents: [["soft-brush"], ["vacuum", "rubber-bulb"]],
      caution: "Machine unplugged; no liquid near the motor.",
      tools: ["screwdriver"],
      service: "cleaned",
    },
  ],
};

export const cabinetFan: ProcedureSpec = {
  id: "cabinet-fan",
  name: "Cabinet fan",
  area: "air",
  station: "exhaust",
  steps: [
    {
      id: "found",
      kind: "grade",
      phase: "as-found",
      service: "checked",
      minutes: 0.5,
      title: "Look at the cabinet fan and its guard.",
      text: "Torch through the guard: blades furred or sticky? Resin there burns.",
    },
    {
      id: "clean",
      minutes: 4,
      asked: [{ step: "found", grades: [1, 3] }],
      title: "Slide it out where you can, wipe blades and guard.",
      text: "Cover off, note the wires; blades front and back, vent and port; back in with no wire pinched. Loose dust off first, then degreaser on a rag, one blade at a time, both sides. Never spray a motor or its bearing.",
      surface: "fan",
      agents: [
        ["soft-brush", "rubber-bulb"],
        ["degreaser", "heavy-wipe"],
      ],
      caution: FAN,
      service: "cleaned",
    },
  ],
};

export const duct: ProcedureSpec = {
  id: "duct",
  name: "Duct",
  area: "air",
  station: "exhaust",
  steps: [
    {
      id: "vacuum",
      minutes: 4,
      title: "Vacuum the duct.",
      text: "Clamp off at the machine, brush and vacuum as far as the arm reaches; beat a soft duct out outdoors. Kinks cost more air than dirt. Clamp back on, tug it.",
      surface: "fan",
      agents: [["vacuum"], ["soft-brush"]],
      caution: "Sharp duct edges: gloves. Mask on. Look for embers first.",
      tools: ["screwdriver"],
      supplies: ["dust mask"],
      service: "cleaned",
    },
  ],
};

export const inlineFan: ProcedureSpec = {
  id: "inline-fan",
  name: "In-line fan",
  area: "air",
  station: "exhaust",
  when: { extra: ["inline-fan"] },
  steps: [
    {
      id: "out",
      minutes: 3,
      drawing: "fan-arrow",
      title: "Note the arrow, then take it out.",
      text: "Unplug it. Photo: side of the terminal box, direction of the flow arrow. Both clamps off, hold the rotor: it can drop out.",
      caution: FAN,
      tools: ["screwdriver"],
    },
    {
      id: "found",
      kind: "grade",
      phase: "as-found",
      minutes: 0.5,
      title: "How do blades and housing look?",
      text: "A film on the blades costs flow and pressure at once. Cracked or bent: do not run it.",
    },
    {
      id: "clean",
      minutes: 8,
      title: "Blow out, then degrease both sides.",
      text: "Air first for the loose, then degreaser on a rag or heavy wipes: blades both sides, housing. Never spray the motor. Spin it: no wobble, no rubbing.",
      surface: "fan",
      agents: [
        ["canned-air", "rubber-bulb"],
        ["degreaser", "heavy-wipe"],
      ],
      caution: "Outdoors, mask on.",
      service: "cleaned",
    },
    {
      id: "back",
      minutes: 4,
      drawing: "fan-arrow",
      title: "Back in: arrow away from the machine.",
      text: "Both clamps on both flanges, their screws where a driver reaches them. Tug it. Terminal box on the side it was.",
      caution: FAN,
      tools: ["screwdriver"],
    },
    {
      id: "left",
      kind: "grade",
      phase: "as-left",
      minutes: 0.5,
      title: "And now? Grade the fan as you leave it.",
      text: "It draws once it has power again: hold a strip of tissue at the lid's gap after power on.",
    },
  ],
};

export const prefilter: ProcedureSpec = {
  id: "prefilter",
  name: "Pre-filter",
  area: "air",
  station: "exhaust",
  when: { extra: ["prefilter"] },
  steps: [
    {
      id: "look",
      kind: "choice",
      minutes: 0.5,
      title: "Look at the pre-filter pad.",
      text: "Brown from wood, pale from rubber or stone: it is done when the weave no longer shows.",
      service: "checked",
      seen: [
        { id: "shows", label: "the weave shows" },
        { id: "full", label: "no weave to see" },
      ],
    },
    {
      id: "swap",
      minutes: 2.5,
      asked: [{ step: "look", said: ["full"] }],
      title: "Swap the pad.",
      text: "A home-made pad: cut to size, corners cropped at the screws. Each one caught here is dirt the main filter does not get: a pad costs little, a main filter much.",
      caution: "Mask on: the old pad goes straight into a bag.",
      supplies: ["pre-filter pad", "dust mask"],
      service: "replaced",
    },
  ],
};

export const filterUnit: ProcedureSpec = {
  id: "filter-unit",
  name: "Filter unit",
  area: "running",
  station: "exhaust",
  when: { extra: ["filter-unit"] },
  steps: [
    {
      id: "display",
      minutes: 1,
      title: "Read the filter unit's own display.",
      text: "It knows its filters best: change them when it says so, in the way its manual says. Note the figure.",
      caution: "Used filters are dusty and may be harmful: mask, bag, local rules.",
      service: "checked",
    },
  ],
};

/** After power on: whether all that cleaning moved air. */
export const draws: ProcedureSpec = {
  id: "exhaust-draws",
  name: "Exhaust, does it draw?",
  area: "running",
  station: "exhaust",
  steps: [
    {
      id: "strip",
      kind: "choice",
      minutes: 0.5,
      drawing: "fan-arrow",
      title: "Check that it draws.",
      text: "Fan on: a strip of tissue at the lid's gap is pulled in, firmly. Smoke must leave straight back or down.",
      supplies: ["a strip of tissue"],
      service: "checked",
      seen: [
        { id: "in", label: "pulled in", grade: 0 },
        {
          id: "limp",
          label: "limp",
          grade: 2,
          leads: "Filter, duct or fan holds it back. Trace starts with this.",
          trace: { check: "smoke", outcome: "lingers" },
        },
        {
          id: "out",
          label: "pushed out",
          grade: 3,
          leads: "The fan blows the wrong way: its arrow must point away from the machine. Do not cut: smoke stays in the room.",
          trace: { check: "fan-arrow", outcome: "reversed" },
        },
      ],
    },
  ],
};
