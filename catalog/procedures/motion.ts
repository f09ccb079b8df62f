/** Rails, belts, encoder, bearings: picked by the kind of bearing. */
import type { ProcedureSpec, StepSpec } from "#core/rounds";

const BY_HAND =
  "Power off, and push the head slowly by hand: pushed fast, its motors drive current back into the electronics. Mind your fingers at the belt.";

const found = {
  id: "found",
  kind: "grade",
  phase: "as-found",
  minutes: 1,
  drawing: "rail-ends",
  title: "Push the head along and feel the rails.",
  text: "Go slowly from end to end. Debris gathers at the ends of travel. Do you feel a light film, drag, or a jerk? Grit under a finger counts as sticky.",
  caution: BY_HAND,
} as const;
const left = {
  id: "left",
  kind: "grade",
  phase: "as-left",
  minutes: 0.5,
  asked: [{ step: "found", grades: [2, 4] }],
  title: "Push it along once more.",
  text: "It must run smoothly from end to end. If it still jerks after a clean, it is a bearing or a belt: report it in Trace.",
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
      title: "Wipe the rails of sealed bearings dry.",
      text: "Wipe along each rail with a dry cloth, the ends of travel twice. If film stays, use a melamine sponge wrung out of soapy water, then dry it. Use no oil: it holds dust, and these bearings are greased for life.",
      surface: "sealed-rails",
      agents: [["dry-cloth"], ["melamine-sponge"]],
      service: "cleaned",
    },
    {
      id: "open",
      minutes: 5,
      when: { bearing: ["open"] },
      title: "Take the old grease off open rails first.",
      text: "Wipe old grease and grime off with a dry cloth, then with a damp one for what stays. New grease on old grit is grinding paste. Never spray solvent in here.",
      surface: "open-rails",
      agents: [["dry-cloth"], ["isopropyl"]],
      caution: "Put the alcohol on the cloth only. It must dry before the power comes on.",
      service: "cleaned",
    },
    {
      id: "wheels",
      minutes: 5,
      when: { bearing: ["wheels", "profile"] },
      title: "Roll the wheels against the cloth.",
      text: "Hold the cloth to the wheel and push the head slowly: the dirt comes off in a ring. Then wipe the track the wheels run in.",
      surface: "wheels",
      agents: [["dry-cloth"], ["isopropyl"]],
      caution: "Put the alcohol on the cloth only. It must dry before the power comes on.",
      service: "cleaned",
    },
    left,
  ],
};

const CLOTH = "Put it on a cloth, never spray it in, and keep it well away from mirrors and lens.";

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
      title: "If it drags, wipe on a little dry film.",
      text: `${CLOTH} Let it dry, then push the head end to end by hand. If it runs smoothly already, leave it.`,
      surface: "sealed-rails",
      agents: [["dry-film"], ["dry-cloth"]],
      caution: "It burns while it is wet.",
      service: "adjusted",
    },
    {
      id: "grease",
      minutes: 3,
      when: { bearing: ["open"] },
      title: "Wipe a trace of white grease onto open rails.",
      text: `It must be so thin that you hardly see it. ${CLOTH} Push the head end to end by hand and wipe off what piles up.`,
      surface: "open-rails",
      agents: [["lithium-grease", "silicone", "light-oil"], ["dry-cloth"]],
      service: "adjusted",
    },
    {
      id: "silicone",
      minutes: 3,
      when: { bearing: ["wheels"] },
      title: "Wipe a trace of silicone onto the wheel rails.",
      text: `Put it on the rail, not on the tread. ${CLOTH}`,
      surface: "wheels",
      agents: [["silicone"], ["dry-cloth"]],
      service: "adjusted",
    },
    {
      id: "oil",
      minutes: 3,
      when: { bearing: ["profile"] },
      title: "Give wheels inside a profile a drop of light oil.",
      text: `Put it on the axle side of the wheel and wipe it off again. ${CLOTH}`,
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
  mendedBy: ["tension-belt"],
  steps: [
    {
      id: "wipe",
      minutes: 2,
      kind: "choice",
      title: "Wipe the belts and feel their tension.",
      text: "Wipe along the teeth with a dry cloth. Press a belt with a finger: it must spring back. Use no lubricant, and never pry a belt off its wheel: the wheel breaks.",
      seen: [
        { id: "taut", label: "taut", grade: 0 },
        {
          id: "slack",
          label: "slack",
          grade: 2,
          leads: "Tighten it by its tensioner only, as the manual says. Trace starts with this.",
          trace: { check: "belt", outcome: "slack" },
        },
        { id: "worn", label: "teeth worn, cracked", grade: 4, leads: "Order a belt, and run no fast jobs until it is on." },
      ],
      surface: "belts",
      agents: [["dry-cloth", "damp-cloth"]],
      caution: BY_HAND,
      service: "cleaned",
    },
  ],
};

/** Strip and reader are one unit wherever they appear: the reader is off before the strip is wiped, and square over it again afterwards. */
const readerOff: StepSpec = {
  id: "reader-off",
  minutes: 0.5,
  title: "Take the reader off first.",
  text: "Slacken the screws of its cover and leave them in their holes. Lift the reader clear without touching the strip, and never rub it along the strip.",
  caution: "Keep the machine unplugged. Nothing may drop in: count the screws, and look where they are before the tray is pulled.",
  tools: ["screwdriver"],
  leaves: { out: "reader" },
};
const wipeStrip: StepSpec = {
  id: "strip",
  minutes: 3,
  drawing: "strip",
  title: "Wipe both faces of the strip, turning the swab as it goes.",
  text: "Go from one end to the other. The reader can be dirty even if the strip is clean: its slot has its own turn, every fifth to tenth time.",
  surface: "encoder-strip",
  agents: [["isopropyl"], ["fresh-swab"]],
  caution: "Keep the machine unplugged.",
  needs: { out: ["reader"] },
  service: "cleaned",
};
const readerBack: StepSpec = {
  id: "back",
  minutes: 1,
  last: true,
  title: "Put the reader back square over the strip, and its cover on.",
  text: "Its screws belong in their holes, not in the tray: count them before you push the tray in. Tuck the cable so that it cannot snag.",
  tools: ["screwdriver"],
  leaves: { back: "reader" },
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
      text: "If there is dust on your finger, there is dust on the strip. Blotches across it matter; grime at its ends does not.",
    },
    readerOff,
    wipeStrip,
    readerBack,
  ],
};

export const encoderReader: ProcedureSpec = {
  id: "encoder-reader",
  name: "Encoder reader",
  area: "motion",
  station: "encoder",
  provenBy: "block",
  when: { extra: ["encoder"] },
  steps: [
    {
      id: "slot",
      minutes: 2,
      drawing: "strip",
      title: "Pull a soaked strip through the reader's slot.",
      text: "Do this every fifth to tenth time. Draw a soaked, lint-free strip through once. Give it a puff of air, then shine the torch through the slot once more: nothing may hang in it.",
      surface: "encoder-strip",
      agents: [["lint-free-strip"], ["isopropyl"], ["rubber-bulb"]],
      tools: ["torch"],
      needs: { out: ["reader"] },
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
      title: "Give the bearings a little grease, and run them back and forth.",
      text: "Put a fingertip of bearing grease where you can reach. Push the carriage end to end and wipe off what comes out.",
      surface: "bearings",
      agents: [["bearing-grease"], ["dry-cloth"]],
      caution: "Leave the table's lead screws to someone trained.",
      service: "adjusted",
    },
  ],
};
