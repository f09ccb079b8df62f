/** The frame of every round: make safe first, proof last. The planner puts the parts between these steps. */
import type { TubeKind } from "#core/machine";
import type { StepSpec } from "#core/rounds";

const SUPPLY = "{supply} Touch nothing electrical: the maker's manual and a qualified person come first.";
const CUTTING = "Wear goggles rated for 10.6 µm, keep the exhaust on, stay with the cut and have the extinguisher at hand.";
const GOGGLES = ["goggles rated for 10.6 µm"] as const;
const FIRES = { power: "on", fires: true, limit: "usual" } as const;

const TWO_MARKS = { check: "tape-travel@head", outcome: "apart" } as const;
const FAR_WEAKER = { check: "bed-map", outcome: "falls-with-distance" } as const;

/** What is dangerous about the supply, by the kind of tube. */
export const SUPPLY_WORDS: { readonly [T in TubeKind]: string } = {
  glass: "Tens of kilovolts remain in the power supply and at the tube even when it is unplugged.",
  metal: "The tube's driver holds a dangerous charge even when it is unplugged; its maker says for how long, and what may be touched.",
};

export const frameSteps = {
  airBefore: {
    id: "air-before",
    minutes: 1,
    station: "exhaust",
    title: "Read the air before you open anything.",
    text: "Fan on, lid shut, the meter in the middle of the duct where you always hold it. What the work gains shows only against this figure.",
    caution: "Keep hair and sleeves away from an open fan.",
    tools: ["air-speed meter"],
    needs: { power: "on" },
    reading: "air",
  },
  airAfter: {
    id: "air-after",
    minutes: 1,
    station: "exhaust",
    title: "Read the air again.",
    text: "Fan on, lid shut, at the same place in the duct. Airflow under Kit says what the work gained.",
    caution: "Keep hair and sleeves away from an open fan.",
    tools: ["air-speed meter"],
    needs: { power: "on" },
    reading: "air",
  },
  makeSafe: {
    id: "make-safe",
    kind: "confirm",
    minutes: 1,
    drawing: "unplug",
    title: "Make it safe before you open it.",
    text: "First jog head and table to their service position: later there is no power to move them.{positions} Then switch it off and unplug it at the wall. Wait as the manual says, then open the lid. Never defeat an interlock to look inside.",
    caution: SUPPLY,
    tick: "Unplugged, and I waited as the manual says",
    leaves: { power: "off" },
  },
  fetch: {
    id: "fetch",
    minutes: 1,
    title: "Fetch it all now, then lay it out.",
    text: "Lay three or four tissues in layers, or a card with a rim, as a soft surface: it catches screws and keeps optics off the bench. Put only this round's cleaners on the bench. Screws get lost when one walks off for a key with the machine open.",
    tools: ["torch", "soft surface (tissues or card)"],
    supplies: ["gloves"],
  },
  hands: {
    id: "hands",
    minutes: 1,
    title: "Wash your hands and put on fresh gloves.",
    text: "From here on you work on optics. Grease and soot on fingers end up on glass, and zinc selenide is toxic if it is chipped or swallowed. The dust raised so far has settled: that is why optics come last.",
    caution:
      "Alcohol burns. Keep flames and sparks away and the machine unplugged until everything is dry. Close the bottle after each use.",
    supplies: ["fresh gloves"],
  },
  openPanel: {
    id: "open-panel",
    minutes: 1,
    title: "Open the {panel}.",
    text: "Take the {panel} off and put its screws onto the soft surface.{keys}{how} Everything behind it is done now, so that it opens only once.",
    caution: SUPPLY,
    tools: ["screwdriver"],
    drawing: "screws",
    needs: { power: "off" },
  },
  closePanel: {
    id: "close-panel",
    minutes: 1,
    title: "Put the {panel} back on.",
    text: "Count the screws{count}. Nothing may lie behind it: no cable, no rag. Turn all screws in by two turns before you tighten any.",
    needs: { power: "off" },
  },
  dry: {
    id: "dry",
    kind: "confirm",
    minutes: 0,
    title: "Let it dry with the lid open.",
    text: "You used alcohol or something else that burns. Leave the lid open until the timer has run out and you smell nothing more. Keep flames, sparks and anything hot away. The timer runs since you used it.",
    caution: "Vapour that has not left burns at the first spark. Do not plug the machine in before.",
    tick: "Dry, and I smell nothing",
    needs: { power: "off" },
  },
  powerOn: {
    id: "power-on",
    kind: "confirm",
    minutes: 0.5,
    title: "Put the covers on, shut the lid, and switch it on.",
    text: "All covers and panels are back, the lid is shut and everyone is clear. Then plug it in and switch it on.",
    caution: "Never fire with the lid or a panel open. Never bypass an interlock.",
    tick: "Covers on, lid shut, everyone clear",
    needs: { power: "off" },
    leaves: { power: "on" },
  },
  aimCheck: {
    id: "aim-check",
    kind: "choice",
    minutes: 5,
    station: "aim-check",
    drawing: "tape",
    title: "A mount was opened: check the alignment.",
    text: "Put packing tape on the frame of the head mirror, off the glass. Set the power to 15 to 20 %. Panels on, lid shut for every pulse. Make one mark with the head near and one with it far: they must meet. Inspect the optics afterwards: tape smoke lands on them.",
    caution:
      "The beam is invisible. Lid shut, interlock working, goggles rated for 10.6 µm, nobody's hands inside. Try a scrap of the tape first: some tapes catch fire.",
    tools: ["marker pen"],
    supplies: ["packing tape"],
    gear: GOGGLES,
    needs: { power: "on", fires: true },
    leaves: { limit: "low" },
    seen: [
      { id: "meet", label: "the marks meet", grade: 0 },
      {
        id: "apart",
        label: "they lie apart",
        grade: 2,
        leads: "Do not turn screws now. Finish the round; Trace will find the mirror.",
        trace: TWO_MARKS,
      },
    ],
  },
  nearFar: {
    id: "near-far",
    kind: "choice",
    minutes: 2,
    station: "aim-check",
    title: "Make two small cuts, one near and one far.",
    text: "These mounts keep the alignment, so tape is needed only if the two differ. Cut a small circle near the head's rest and one at the far corner, with the same setting and the covers on.",
    caution: CUTTING,
    gear: GOGGLES,
    needs: FIRES,
    seen: [
      { id: "same", label: "both the same", grade: 0 },
      {
        id: "differ",
        label: "the far one is weaker",
        grade: 2,
        leads: "A mirror does not sit as it did. Finish the round; Trace starts with this.",
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
    text: "If you turned the power down for a test pulse, turn it up to your usual setting now. Left low it looks like a dying tube.",
    tick: "The limit is at its usual setting",
    leaves: { limit: "usual" },
  },
  block: {
    id: "block",
    kind: "choice",
    minutes: 2,
    station: "motion",
    title: "Engrave a small block: are its edges straight?",
    text: "Engrave a filled square as wide as a thumb at your usual speed. Belts, rails and encoder show in its upright edges.",
    caution: "Keep the exhaust on, stay with it and have the extinguisher at hand.",
    needs: FIRES,
    seen: [
      { id: "straight", label: "straight", grade: 0 },
      {
        id: "wavy",
        label: "wavy",
        grade: 2,
        leads: "There is dust on the encoder strip, or play in the motion. Trace starts with this.",
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
    text: "Cut a row of small squares at one power, each faster than the last. Push none out: a square has dropped only if it falls by itself.",
    caution: CUTTING,
    gear: GOGGLES,
    needs: FIRES,
  },
  piece: {
    id: "piece",
    kind: "proof",
    minutes: 1,
    title: "Make the first cut: does it drop out?",
    text: "Cut a small circle and a square, or the first job itself, at your usual setting in a sheet you know. A ladder says more.",
    caution: CUTTING,
    gear: GOGGLES,
    needs: FIRES,
  },
} as const satisfies Record<string, StepSpec>;

/** Head of a gantry machine: reached once for lens, nozzle and head mirror. */
export const openHead: readonly StepSpec[] = [
  {
    id: "head-probe",
    minutes: 0.5,
    when: { extra: ["autofocus"], movingHead: false },
    title: "Move the autofocus probe out of the way.",
    text: "Swing it up or take it off. Mind its cable.",
    needs: { power: "off", in: ["head"] },
  },
  {
    id: "head-off",
    minutes: 1,
    when: { movingHead: false },
    title: "Take the hose, the elbow and the nozzle off, in the order this head allows.",
    text: "Press the hose's collar in and pull straight: pulled without pressing, its seal tears. On some heads the elbow sits on the nozzle and comes first. Turn the nozzle by hand: its thread is fine and crosses easily. If the pointer lamp is in the way, mark where it stood. Lay the parts in a row as they come off. {how}",
    drawing: "stack",
    tools: ["marker pen"],
    needs: { power: "off" },
    leaves: { out: "head" },
  },
  {
    id: "head-cap",
    minutes: 1,
    when: { movingHead: true },
    title: "Move the head to the middle and take its cap off.",
    text: "Slide the head to the middle by hand, slowly. Lift the cap off its magnets. The ribbon cable can stay plugged in: open its clips for slack.",
    drawing: "head-cap",
    needs: { power: "off" },
    leaves: { out: "head" },
  },
];

export const closeHead: readonly StepSpec[] = [
  {
    id: "head-together",
    minutes: 1.5,
    when: { movingHead: false },
    title: "Put the head together again, finger tight.",
    text: "Go backwards along the row: what came off last goes on first. Turn each thread backwards until it clicks, then forwards. Push the hose in until it stops and tug it: it must hold. Tuck the cable where the carriage cannot catch it.",
    drawing: "stack",
    needs: { power: "off", in: ["lens"] },
    leaves: { back: "head" },
  },
  {
    id: "head-cap-on",
    minutes: 1,
    when: { movingHead: true },
    title: "Close the ribbon's clips and put the cap on.",
    text: "The ribbon must not hang where the head runs. Lower the cap until the magnets pull it flush.",
    drawing: "head-cap",
    needs: { power: "off", in: ["lens"] },
    leaves: { back: "head" },
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
    text: "Do it while the machine is still unplugged, if it allows that: put the gauge between nozzle and sheet, let the head down onto it, and lock it. {place}",
    tools: ["focus gauge"],
    needs: { in: ["lens", "head"] },
  },
  autofocus: {
    id: "focus-auto",
    minutes: 1,
    station: "focus",
    service: "adjusted",
    title: "Let the machine focus itself.",
    text: "Put a flat scrap of the sheet you cut under the head. Watch that it stops where it always does.",
    caution: "Keep the lid shut.",
    needs: { power: "on", in: ["lens", "head"] },
  },
} as const satisfies Record<string, StepSpec>;

/** After power on, before anything fires. */
export const afterPower: readonly StepSpec[] = [
  {
    id: "flow-seen",
    kind: "choice",
    minutes: 0.5,
    when: { cooling: ["chiller", "bucket", "internal"] },
    station: "coolant",
    title: "See the coolant flow.",
    text: "The return line runs, no bubbles pass the tube, and nothing sounds an alarm. Do not fire before you see this.",
    caution: "Never fire without coolant flow seen or confirmed: the tube cracks within seconds.",
    needs: { power: "on" },
    tick: "I looked at the coolant",
    seen: [
      { id: "flows", label: "it flows, no bubbles", grade: 0 },
      {
        id: "bubbles",
        label: "bubbles at the tube",
        grade: 2,
        stops: "machine",
        leads: "Do not fire: a bubble is a hot spot on the glass. Tilt them out with the pump running; Trace has the round for it.",
        trace: { check: "bubbles", outcome: "yes" },
      },
      {
        id: "none",
        label: "no flow, or an alarm",
        grade: 3,
        stops: "machine",
        leads: "Do not fire. Switch the machine off and look for a kinked hose, a stopped pump or an empty tank. Trace starts with this.",
        trace: { check: "coolant-flow", outcome: "low" },
      },
    ],
  },
  {
    id: "fans-heard",
    kind: "confirm",
    minutes: 0.5,
    when: { cooling: ["air"] },
    title: "Hear the tube's fans run.",
    text: "Warm air leaves the cabinet and the exhaust draws.",
    needs: { power: "on" },
    tick: "The fans run and the exhaust draws",
  },
  {
    id: "pointer",
    minutes: 0.5,
    when: { extra: ["pointer"], movingHead: false },
    title: "Bring the pointer lamp back onto the beam's mark.",
    text: "If it was moved: put its dot where the beam burned a mark last, not where it looks right. Without a mark, do it at the first cut.",
    needs: { power: "on", in: ["head"] },
  },
];
