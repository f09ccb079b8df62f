/** Rails, belts, encoder, bearings: picked by the kind of bearing. */
import type { ProcedureSpec } from "#core/rounds";

const BY_HAND =
  "Power off, head pushed slowly by hand: fast pushing drives current back into the electronics. Mind your fingers at the belt.";

const found = {
  id: "found",
  kind: "grade",
  phase: "as-found",
  minutes: 1,
  drawing: "rail-ends",
  title: "Push the head along, feel the rails.",
  text: "Slowly, end to end. Debris gathers at the ends of travel: a light film, drag, or a jerk? Grit under a finger counts as film.",
  caution: BY_HAND,
} as const;
const left = {
  id: "left",
  kind: "grade",
  phase: "as-left",
  minutes: 0.5,
  asked: [{ step: "found", grades: [2, 4] }],
  title: "And now? Push it once more.",
  text: "Smooth from end to end. Still jerking after a clean: bearing or belt, say so in Trace.",
} as const;

export const rails: ProcedureSpec = {
  id: "rails",
  name: "Rails",
  area: "motion",
  station: "motion",
  provenBy: "block",
  steps: [
    found,
    {
      id: "sealed",
      minutes: 4,
      when: { bearing: ["sealed"] },
      title: "Sealed bearings: wipe dry.",
      text: "Dry cloth along each rail, the ends of travel twice. Film that stays: melamine sponge, wrung out of soapy water, then dry. No oil: it holds dust, and these bearings are greased for life.",
      surface: "sealed-rails",
      agents: [["dry-cloth"], ["melamine-sponge"]],
      service: "cleaned",
    },
    {
      id: "open",
      minutes: 5,
      when: { bearing: ["open"] },
      title: "Open rails: old grease off first.",
      text: "Old grease and grime off with a dry cloth, then a damp one for what stays. New grease on old grit is grinding paste. Never spray solvent in here.",
      surface: "open-rails",
      agents: [["dry-cloth"], ["isopropyl"]],
      caution: "Alcohol on the cloth only; it must dry before power.",
      service: "cleaned",
    },
    {
      id: "wheels",
      minutes: 5,
      when: { bearing: ["wheels", "profile"] },
      title: "Roll the wheels against the cloth.",
      text: "Cloth held to the wheel, head pushed slowly: the dirt comes off in a ring. Then wipe the track they run in.",
      surface: "wheels",
      agents: [["dry-cloth"], ["isopropyl"]],
      caution: "Alcohol on the cloth only; it must dry before power.",
      service: "cleaned",
    },
    left,
  ],
};

const CLOTH = "From a cloth, never sprayed in, and well away from mirrors and lens.";

export const lubricate: ProcedureSpec = {
  id: "lubricate",
  name: "Rails, lubricate",
  area: "motion",
  station: "motion",
  steps: [
    {
      id: "dry-film",
      minutes: 2,
      when: { bearing: ["sealed"] },
      title: "A breath of dry film, if it drags.",
      text: `${CLOTH} Let it dry, then run the head end to end by hand. Runs smoothly already: skip it.`,
      surface: "sealed-rails",
      agents: [["dry-film"], ["dry-cloth"]],
      caution: "Flammable while wet.",
      service: "adjusted",
    },
    {
      id: "grease",
      minutes: 3,
      when: { bearing: ["open"] },
      title: "Open rails: a trace of white grease.",
      text: `Thin enough that you can hardly see it. ${CLOTH} Run end to end by hand, wipe off what piles up.`,
      surface: "open-rails",
      agents: [["lithium-grease", "silicone", "light-oil"], ["dry-cloth"]],
      service: "adjusted",
    },
    {
      id: "silicone",
      minutes: 3,
      when: { bearing: ["wheels"] },
      title: "Wheel rails: a trace of silicone.",
      text: `On the rail, not on the tread. ${CLOTH}`,
      surface: "wheels",
      agents: [["silicone"], ["dry-cloth"]],
      service: "adjusted",
    },
    {
      id: "oil",
      minutes: 3,
      when: { bearing: ["profile"] },
      title: "Wheels inside a profile: a drop of light oil.",
      text: `On the wheel's axle side, wiped off again. ${CLOTH}`,
      surface: "wheels",
      agents: [["light-oil"], ["dry-cloth"]],
      service: "adjusted",
    },
  ],
};

export const belts: ProcedureSpec = {
  id: "belts",
  name: "Belts",
  area: "motion",
  station: "motion",
  provenBy: "block",
  steps: [
    {
      id: "wipe",
      minutes: 2,
      kind: "choice",
      title: "Wipe the belts, look at their tension.",
      text: "Along the teeth, dry. Pressed with a finger they spring back. No lubricant, and never pry a belt off its wheel: wheels break.",
      seen: [
        { id: "taut", label: "taut", grade: 0 },
        {
          id: "slack",
          label: "slack",
          grade: 2,
          leads: "By its tensioner only, as the manual says. Trace starts with this.",
          trace: { check: "belt", outcome: "slack" },
        },
        { id: "worn", label: "teeth worn, cracked", grade: 4, leads: "Order a belt, and do not run fast jobs until it is on." },
      ],
      surface: "belts",
      agents: [["dry-cloth", "damp-cloth"]],
      caution: BY_HAND,
      service: "cleaned",
    },
  ],
};

export const encoder: ProcedureSpec = {
  id: "encoder",
  name: "Encoder strip",
  area: "motion",
  station: "encoder",
  provenBy: "block",
  when: { extra: ["encoder"] },
  steps: [
    {
      id: "found",
      kind: "grade",
      phase: "as-found",
      minutes: 0.5,
      title: "Draw a clean fingertip along the rail beside the strip.",
      text: "Dust on the finger means dust on the strip. Blotches across it matter, grime at its ends does not.",
    },
    {
      id: "reader-off",
      minutes: 0.5,
      title: "Reader off first, clear of the strip.",
      text: "Loosen, don't remove, the cover's screws. Lift the reader clear without touching the strip; never rub it along.",
      tools: ["screwdriver"],
    },
    {
      id: "strip",
      minutes: 3,
      drawing: "strip",
      title: "Strip: both faces, swab turned as it goes.",
      text: "From one end to the other. A clean strip does not clear the reader: its slot has a turn of its own, every fifth to tenth time.",
      surface: "encoder-strip",
      agents: [["isopropyl"], ["fresh-swab"]],
      caution: "Machine unplugged. Screws and tray: nothing may drop in.",
      tools: ["screwdriver"],
      service: "cleaned",
    },
    {
      id: "back",
      minutes: 1,
      last: true,
      title: "Reader square, cable tucked.",
      text: "Reader back square over the strip, its screw into the hole and not into the tray. Cable tucked so that it cannot snag.",
      tools: ["screwdriver"],
    },
  ],
};

export const encoderReader: ProcedureSpec = {
  id: "encoder-reader",
  name: "Encoder reader",
  area: "motion",
  station: "encoder",
  when: { extra: ["encoder"] },
  steps: [
    {
      id: "slot",
      minutes: 2,
      drawing: "strip",
      title: "Pull a soaked strip through the reader's slot.",
      text: "Every fifth to tenth time. Lint-free strip, soaked, drawn through once; then a puff of air.",
      surface: "encoder-strip",
      agents: [["lint-free-strip"], ["isopropyl"], ["rubber-bulb"]],
      service: "cleaned",
    },
  ],
};

export const bearings: ProcedureSpec = {
  id: "bearings",
  name: "Linear bearings",
  area: "motion",
  station: "motion",
  when: { extra: ["linear-bearings"] },
  steps: [
    {
      id: "grease",
      minutes: 4,
      title: "A little bearing grease, run back and forth.",
      text: "Where it is reachable, with a fingertip of grease; then run the carriage end to end and wipe off what comes out.",
      surface: "bearings",
      agents: [["bearing-grease"], ["dry-cloth"]],
      caution: "Table lead screws are for someone trained: leave them.",
      service: "adjusted",
    },
  ],
};
