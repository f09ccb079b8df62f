/** The frame of every round: make safe first, proof last. The planner puts the parts between these steps. */
import type { TubeKind } from "#core/machine";
import type { StepSpec } from "#core/rounds";

const SUPPLY = "{supply} Touch nothing electrical: the maker's manual and a qualified person come first.";

const TWO_MARKS = { check: "tape-travel@head", outcome: "apart" } as const;
const FAR_WEAKER = { check: "bed-map", outcome: "falls-with-distance" } as const;

/** What is dangerous about the supply, by the kind of tube. */
export const SUPPLY_WORDS: { readonly [T in TubeKind]: string } = {
  glass: "The tube's supply stays charged at tens of kilovolts long after it is unplugged.",
  metal: "The tube's driver holds a dangerous charge after it is unplugged; how long, and what may be touched, is its maker's word.",
};

export const frameSteps = {
  makeSafe: {
    id: "make-safe",
    kind: "confirm",
    minutes: 1,
    drawing: "unplug",
    title: "Make it safe before you open it.",
    text: "First jog head and table to where they must stand; after that there is no power to move them.{positions} Then power off and unplug at the wall. Wait as the manual says, then open the lid. Never defeat an interlock to look inside.",
    caution: SUPPLY,
    tick: "Unplugged, and I waited as the manual says",
  },
  fetch: {
    id: "fetch",
    minutes: 1,
    title: "Fetch it all now, then lay it out.",
    text: "Three or four tissues, or card, as a soft surface: it catches screws and keeps optics off the bench. Put down only the agents of this round. Walking off for a key with the machine open is how screws get lost.",
    tools: ["torch", "soft surface (tissues or card)"],
    supplies: ["gloves"],
  },
  hands: {
    id: "hands",
    minutes: 1,
    title: "Wash your hands. Fresh gloves.",
    text: "From here on it is optics. Grease and soot on fingers end up on glass; zinc selenide is toxic if chipped or swallowed. Dirt raised up to now has settled: that is why optics come last.",
    caution: "Alcohol burns: no flame, no sparks, machine unplugged until everything has dried. Close the bottle after each pour.",
    supplies: ["fresh gloves"],
  },
  openPanel: {
    id: "open-panel",
    minutes: 1,
    title: "Open the {panel}.",
    text: "{Panel} off, its screws onto the soft surface.{keys} Everything behind it is done now, so that it opens only once.",
    caution: SUPPLY,
    tools: ["screwdriver"],
    drawing: "screws",
  },
  closePanel: {
    id: "close-panel",
    minutes: 1,
    title: "{Panel} back on.",
    text: "Count the screws. No cable and no rag behind it. All screws in by two turns before any is tightened.",
  },
  powerOn: {
    id: "power-on",
    kind: "confirm",
    minutes: 0.5,
    title: "Covers on, everyone clear, power on.",
    text: "All covers and panels back. Where alcohol or another flammable was used the wait runs first: lid open, no smell left, no ignition source near. Then plug in and power on.",
    caution: "Never fire with the lid or a panel open. Never bypass an interlock.",
    tick: "Covers on, dry, everyone clear",
  },
  aimCheck: {
    id: "aim-check",
    kind: "choice",
    minutes: 5,
    station: "mirror-1",
    drawing: "tape",
    title: "A seat was opened: check the aim.",
    text: "Packing tape on the frame of the head mirror, off the glass. Power 15 to 20 %, panels on, lid closed for every pulse. One mark near, one far: they must meet. Look at the optics afterwards: tape smoke lands on them.",
    caution:
      "Invisible beam: lid closed, interlock working, goggles rated for 10.6 µm, nobody's hands inside. Try a scrap of the tape first: some catch fire.",
    tools: ["marker pen"],
    supplies: ["packing tape"],
    seen: [
      { id: "meet", label: "the marks meet" },
      {
        id: "apart",
        label: "they lie apart",
        leads: "Do not turn screws now. Close the round; Trace finds the mirror, one at a time.",
        trace: TWO_MARKS,
      },
    ],
  },
  nearFar: {
    id: "near-far",
    kind: "choice",
    minutes: 2,
    station: "mirror-1",
    title: "Two small cuts, one near, one far.",
    text: "These seats keep their aim, so tape is not needed unless the two differ: a small circle near the head's rest and one at the far corner, same setting, covers on.",
    caution: "Goggles rated for 10.6 µm, exhaust on, stay with the cut, extinguisher at hand.",
    seen: [
      { id: "same", label: "both the same" },
      {
        id: "differ",
        label: "the far one is weaker",
        leads: "A mirror does not sit as it did. Close the round; Trace starts with this.",
        trace: FAR_WEAKER,
      },
    ],
  },
  powerBack: {
    id: "power-back",
    kind: "confirm",
    minutes: 0.5,
    station: "settings",
    service: "adjusted",
    title: "Put the power limit back.",
    text: "If the panel was turned down for a test pulse, turn it up to your usual setting now. It is the cheapest fault there is, and the most forgotten.",
    tick: "The limit is at its usual setting",
  },
  block: {
    id: "block",
    kind: "choice",
    minutes: 2,
    station: "motion",
    title: "Engrave a small block: are its edges straight?",
    text: "A filled square of a thumb's width, at your usual speed. Belts, rails and encoder show in its upright edges.",
    caution: "Exhaust on, stay with it, extinguisher at hand.",
    seen: [
      { id: "straight", label: "straight", grade: 0 },
      {
        id: "wavy",
        label: "wavy",
        grade: 2,
        leads: "Dust on the encoder strip, or play in the motion. Trace starts with this.",
        trace: { check: "raster-edge", outcome: "wavy" },
      },
      {
        id: "stepped",
        label: "stepped",
        grade: 2,
        leads: "A belt skips, or the carriage catches. Trace starts with this.",
        trace: { check: "raster-edge", outcome: "stepped" },
      },
    ],
  },
  proof: {
    id: "proof",
    kind: "proof",
    minutes: 6,
    title: "Cut a ladder: did it help?",
    text: "A row of small shapes at one power, each a step faster. Poke each one once and say what it did.",
    caution: "Goggles rated for 10.6 µm, exhaust on, stay with the cut, extinguisher at hand.",
  },
  piece: {
    id: "piece",
    kind: "proof",
    minutes: 1,
    title: "The first cut: does it drop?",
    text: "A small circle and a square, or the first job itself, at your usual setting in a sheet you know. A ladder says more.",
    caution: "Goggles rated for 10.6 µm, exhaust on, stay with the cut, extinguisher at hand.",
  },
} as const satisfies Record<string, StepSpec>;

/** Head of a gantry machine: reached once for lens, nozzle and head mirror. */
export const openHead: readonly StepSpec[] = [
  {
    id: "head-probe",
    minutes: 0.5,
    when: { extra: ["autofocus"], movingHead: false },
    title: "Move the autofocus probe out of the way.",
    text: "Swing it up or take it off; mind its cable.",
  },
  {
    id: "head-off",
    minutes: 1,
    when: { movingHead: false },
    title: "Hose off, nozzle off, then the elbow.",
    text: "Press the hose's collar in and pull straight: pulling without pressing tears the seal. The nozzle by hand: its thread is fine and crosses easily. Then the air elbow, and the pointer lamp if it is in the way: mark where it stood.",
    drawing: "stack",
    tools: ["marker pen"],
  },
  {
    id: "head-cap",
    minutes: 1,
    when: { movingHead: true },
    title: "Head to the middle, cap off.",
    text: "Slide the head to the middle by hand, slowly. Lift the cap off its magnets. The ribbon cable can stay plugged: open its clips for slack.",
    drawing: "head-cap",
  },
];

export const closeHead: readonly StepSpec[] = [
  {
    id: "head-together",
    minutes: 1.5,
    when: { movingHead: false },
    title: "Head together again, finger tight.",
    text: "Same order as it came apart: ring, elbow, nozzle. Start each thread backwards until it clicks, then forwards. Hose in until it stops, then tug it: it must hold. Pointer lamp back at its mark. Tuck the cable where the carriage cannot catch it.",
    drawing: "stack",
  },
  {
    id: "head-cap-on",
    minutes: 1,
    when: { movingHead: true },
    title: "Ribbon in its clips, cap on.",
    text: "Close the ribbon's clips: it must not hang where the head runs. Cap down until the magnets pull it flush.",
    drawing: "head-cap",
  },
];

export const focusSteps = {
  gauge: {
    id: "focus-gauge",
    minutes: 1,
    drawing: "gauge",
    station: "focus",
    service: "adjusted",
    title: "Set the focus with the gauge.",
    text: "While still unplugged, where the machine allows: gauge between nozzle and sheet, let the head down onto it, lock. {place}",
    tools: ["focus gauge"],
  },
  autofocus: {
    id: "focus-auto",
    minutes: 1,
    station: "focus",
    service: "adjusted",
    title: "Let the machine focus itself.",
    text: "On a flat scrap of the sheet you cut. Watch that it stops where it always does.",
    caution: "Lid closed.",
  },
} as const satisfies Record<string, StepSpec>;

/** After power on, before anything fires. */
export const afterPower: readonly StepSpec[] = [
  {
    id: "flow-seen",
    kind: "confirm",
    minutes: 0.5,
    when: { cooling: ["chiller", "bucket", "internal"] },
    title: "See the coolant flow.",
    text: "Return line running, no bubbles passing the tube, no alarm. Before that nothing fires.",
    caution: "Never fire without coolant flow seen or confirmed: the tube cracks within seconds.",
    tick: "I saw the coolant flow",
  },
  {
    id: "fans-heard",
    kind: "confirm",
    minutes: 0.5,
    when: { cooling: ["air"] },
    title: "Hear the tube's fans run.",
    text: "Warm air leaves the cabinet, the exhaust draws.",
    tick: "Fans run, exhaust draws",
  },
];
