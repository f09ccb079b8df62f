/** Assist air and exhaust: fans, duct, filters. */
import type { ProcedureSpec, StepSpec } from "#core/rounds";

const FAN = "Unplug the fan and hold its blade. The edges of duct and housing are sharp. Wear gloves.";

/** Both fans of a moving head sit behind one shroud: it is opened once for both. */
const shroudOff: StepSpec = {
  id: "shroud",
  minutes: 3,
  when: { movingHead: true },
  drawing: "screws",
  title: "Take the carriage plate and the shroud off.",
  text: "They hide the head's fans. Note which screw is the long one.",
  caution: "Keep the machine unplugged.",
  tools: ["screwdriver"],
  leaves: { out: "shroud" },
};
const shroudOn: StepSpec = {
  id: "shroud-on",
  minutes: 1.5,
  when: { movingHead: true },
  last: true,
  title: "Put the shroud and the plate back on.",
  text: "No cable may lie under the shroud. Put the long screw where it was.",
  tools: ["screwdriver"],
  leaves: { back: "shroud" },
};

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
      title: "Take the hose off, swab its end, put it on and tug it.",
      text: "Press the collar in and pull the hose straight off. Swab the end and look through it at the torch: if there is gum inside, cut off the end or fit a new piece. Push it in until it stops, then tug: it must hold. It must not kink where the carriage turns.",
      surface: "nozzle-metal",
      agents: [["isopropyl"], ["fresh-swab"]],
      service: "cleaned",
    },
    shroudOff,
    {
      id: "fan",
      minutes: 2,
      when: { extra: ["air-fan"], movingHead: true },
      title: "Brush the blades of the assist-air fan, both sides.",
      text: "Take the loose dust off with the brush, both sides. Keep everything wet away from the motor.",
      surface: "fan",
      agents: [["soft-brush", "rubber-bulb"]],
      caution: "Do not let an air can spin the fan: it then makes voltage.",
      needs: { out: ["shroud"] },
      service: "cleaned",
    },
    {
      id: "filter",
      minutes: 1.5,
      when: { extra: ["air-pump"] },
      title: "Clean the pump's filter.",
      text: "Unplug the pump. Take the felt or foam out, tap and brush it, and put it back in dry. If it is hard or torn, replace it.",
      surface: "fan",
      agents: [["soft-brush"], ["vacuum"]],
      supplies: ["spare pump filter"],
    },
    shroudOn,
  ],
};

/** Needs the machine whole: the flow is felt or measured with the covers on. */
export const airFeel: ProcedureSpec = {
  id: "air-feel",
  name: "Assist air, felt",
  area: "running",
  station: "air",
  steps: [
    {
      id: "feel",
      kind: "choice",
      minutes: 0.5,
      title: "Feel the air at the nozzle.",
      text: "Air on, beam off. Hold a wetted fingertip a finger's width below the nozzle: the stream is firm. Or read the flow meter in the hose. Weak air means smoke and flame at the cut. Shut the lid again.",
      caution: "Beam off, nothing queued. If the nozzle has just cut, it may be hot. Hover a finger near it before you touch it.",
      service: "checked",
      seen: [
        { id: "firm", label: "firm", grade: 0 },
        {
          id: "weak",
          label: "weak",
          grade: 2,
          leads: "Look at the hose end, the pump filter or the head fan: clean the air line next. Trace starts with this.",
          trace: { check: "air-feel", outcome: "weak" },
        },
        {
          id: "none",
          label: "none",
          grade: 3,
          stops: "machine",
          leads: "Do not cut without air: the nozzle catches flame. Is the pump running, and the hose on? Trace starts with this.",
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
    shroudOff,
    {
      id: "found",
      kind: "grade",
      phase: "as-found",
      service: "checked",
      minutes: 0.5,
      title: "Inspect the head fan.",
      text: "Felt on the blades or a closed guard counts as sticky. A clogged head fan makes the machine stop to cool.",
    },
    {
      id: "clean",
      minutes: 3,
      asked: [{ step: "found", grades: [1, 3] }],
      title: "Brush its blades, both sides.",
      text: "Take the loose dust off first, then wipe each blade with a rag. Spin it with a finger: it must neither wobble nor rub.",
      surface: "fan",
      agents: [["soft-brush"], ["vacuum", "rubber-bulb"]],
      caution: "Keep the machine unplugged, and liquid away from the motor.",
      service: "cleaned",
    },
    shroudOn,
  ],
};

export const cabinetFan: ProcedureSpec = {
  id: "cabinet-fan",
  name: "Cabinet fan",
  area: "air",
  movesAir: true,
  station: "exhaust",
  steps: [
    {
      id: "found",
      kind: "grade",
      phase: "as-found",
      service: "checked",
      minutes: 0.5,
      title: "Inspect the cabinet fan and its guard.",
      text: "Shine the torch through the guard: are the blades furred or sticky? Resin there burns.",
    },
    {
      id: "clean",
      minutes: 4,
      asked: [{ step: "found", grades: [1, 3] }],
      title: "Slide it out if you can, and wipe blades and guard.",
      text: "Take the cover off and note the wires. Take the loose dust off, then wipe one blade at a time with degreaser on a rag, front and back, then vent and port. Never spray a motor or its bearing. Slide it back in with no wire pinched.",
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
  movesAir: true,
  station: "exhaust",
  steps: [
    {
      id: "vacuum",
      minutes: 4,
      title: "Vacuum the duct.",
      text: "Take the clamp off at the machine, then brush and vacuum as far as your arm reaches. Beat a soft duct out outdoors. A kink costs more air than dirt does. Put the clamp back on and tug it.",
      surface: "fan",
      agents: [["vacuum"], ["soft-brush"]],
      caution: "The duct's edges are sharp. Wear gloves. Put a mask on. Look for embers first.",
      tools: ["screwdriver"],
      gear: ["dust mask"],
      service: "cleaned",
    },
  ],
};

export const inlineFan: ProcedureSpec = {
  id: "inline-fan",
  name: "In-line fan",
  area: "air",
  movesAir: true,
  station: "exhaust",
  when: { extra: ["inline-fan"] },
  steps: [
    {
      id: "out",
      minutes: 3,
      drawing: "fan-arrow",
      title: "Note the arrow, then take the fan out.",
      text: "Unplug it. Take a photo of the side of the terminal box and of the flow arrow. Take both clamps off and hold the rotor: it can drop out.",
      caution: FAN,
      tools: ["screwdriver"],
      leaves: { out: "in-line fan" },
    },
    {
      id: "found",
      kind: "grade",
      phase: "as-found",
      minutes: 0.5,
      title: "How do blades and housing look?",
      text: "A film on the blades costs flow and pressure at once. If a blade is cracked or bent, the fan must not run.",
    },
    {
      id: "clean",
      minutes: 8,
      title: "Blow it out, then degrease both sides.",
      text: "Hold the rotor and take the loose dust off with air, outdoors or into a vacuum. Then wipe the blades on both sides, and the housing, with degreaser on a rag or heavy wipes. Never spray the motor. Spin it: it must neither wobble nor rub.",
      surface: "fan",
      agents: [
        ["canned-air", "rubber-bulb"],
        ["degreaser", "heavy-wipe"],
      ],
      caution: "Work outdoors with a mask on.",
      gear: ["dust mask"],
      service: "cleaned",
    },
    {
      id: "back",
      minutes: 4,
      drawing: "fan-arrow",
      title: "Put it back with the arrow away from the machine.",
      text: "Put both clamps on both flanges, their screws where a driver reaches them. Tug it. The terminal box goes on the side where it was.",
      caution: FAN,
      tools: ["screwdriver"],
      leaves: { back: "in-line fan" },
    },
    {
      id: "left",
      kind: "grade",
      phase: "as-left",
      minutes: 0.5,
      title: "Inspect the fan again, now that it is back.",
      text: "Whether it draws shows once it has power again: hold a strip of tissue at the lid's gap after power on.",
    },
  ],
};

export const prefilter: ProcedureSpec = {
  id: "prefilter",
  name: "Pre-filter",
  area: "air",
  movesAir: true,
  station: "exhaust",
  when: { extra: ["prefilter"] },
  steps: [
    {
      id: "look",
      kind: "choice",
      minutes: 0.5,
      title: "Inspect the pre-filter pad.",
      text: "It turns brown from wood, pale from rubber or stone. Once you no longer see its weave, it is full.",
      service: "checked",
      seen: [
        { id: "shows", label: "I see the weave" },
        { id: "full", label: "no weave to see" },
      ],
    },
    {
      id: "swap",
      minutes: 2.5,
      asked: [{ step: "look", said: ["full"] }],
      title: "Swap the pad.",
      text: "Cut a home-made pad to the frame and leave room for its screws. What it catches, the main filter does not get: a pad costs little, a main filter much.",
      caution: "Put a mask on. Put the old pad straight into a bag.",
      supplies: ["pre-filter pad"],
      gear: ["dust mask"],
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
      text: "The filter unit shows when its filters are full. Change them then, the way its manual says, and note the figure.",
      caution: "Used filters are dusty and may be harmful. Wear a mask, bag them, and follow local rules.",
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
      title: "Check that the exhaust draws.",
      text: "Switch the fan on and hold a strip of tissue at the lid's gap: it must be pulled in, firmly. Smoke must leave straight back or down.",
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
          stops: "machine",
          leads: "Do not cut: the smoke stays in the room. The fan blows the wrong way: its arrow must point away from the machine.",
          trace: { check: "fan-arrow", outcome: "reversed" },
        },
      ],
    },
  ],
};
