/** Lens, nozzle, mirrors and windows. Written for someone standing there in gloves: short, exact, the reason where it prevents harm. */
import type { ProcedureSpec, Seen, StepSpec } from "#core/rounds";

const ZNSE = "Wear gloves and hold it by the edge: zinc selenide is toxic if it is chipped or swallowed.";
const CRACKED =
  "If it is cracked, do not blow at it, wipe it or vacuum it. Put a mask on, pick it up with a damp tissue, put it into a sealed bag and treat it as hazardous waste.";
const COATING = "Do not press: the coating scratches. If it is chipped or burnt through, take a photo and stop.";
const SLOWLY = "Move the gantry slowly by hand: pushed fast, its motors drive current back into the electronics.";

/** Which side looks up, said at the very step: people call the same act “concave up” and “convex up”. */
const SIDES =
  "Look at your reflection in each face: the bulging side shows your whole face, small; the other shows a part of it, large. The bulging side looks up, towards the mirror. If you were told “concave up” or “convex up”, go by this: both are said of the same act.";
const LEVEL =
  "Then close the holder, turn the whole of it upside down and screw the tube onto it, so that the lens lies evenly; the lens turns with its holder and stays as you put it in.";

const WAY_SEEN: readonly Seen[] = [
  { id: "right", label: "right side up, level, snug" },
  {
    id: "unsure",
    label: "not sure",
    leads:
      "Take it out again and look at your reflection: the bulging side shows your whole face, small, and looks up. Upside down it loses a quarter of the power.",
  },
];

const DAMP = [["isopropyl", "optical-fluid", "lens-wipe"], ["fresh-swab"]] as const;
const DRY = [["lens-tissue"]] as const;
/** Contact wears a coating: what is clear is left alone unless its owner cleans by the calendar, what is damaged is past cleaning. */
const ANYWAY = "Clean it anyway";
const FROM_HAZE = [{ step: "found", grades: [1, 3], said: ["anyway"] }] as const;
const STILL_HAZED = [{ step: "left", grades: [1, 2] }] as const;
const PAST_CLEANING = [
  { step: "found", grades: [4, 4] },
  { step: "left", grades: [3, 4] },
] as const;

const found = (text: string, caution: string, minutes = 0.5): StepSpec => ({
  id: "found",
  kind: "grade",
  phase: "as-found",
  minutes,
  title: "Inspect {the part} before you wipe it.",
  text: `${text} If it is clear, leave it alone: every contact wears the coating.`,
  caution,
  tools: ["torch"],
  anyway: ANYWAY,
});
const left: StepSpec = {
  id: "left",
  kind: "grade",
  phase: "as-left",
  minutes: 0.5,
  asked: FROM_HAZE,
  title: "Inspect {the part} again, now that it is clean.",
  text: "Use the same torch at the same angle. A yellow swab from a faint haze is normal. A dark centre that stayed is not.",
};
/** Once more, and the grade that counts. */
const again = (how: Pick<StepSpec, "text" | "agents"> & Partial<StepSpec>): StepSpec => ({
  id: "again",
  kind: "grade",
  phase: "as-left",
  minutes: 1.5,
  asked: STILL_HAZED,
  title: "If haze is left, clean it once more and inspect it again.",
  surface: "@own",
  ...how,
});

const LENS_IN = { needs: { in: ["lens"] } } as const;
const NOT_SEEN = "Could not see it";

/** What a look at the lens is for, wherever one looks from. */
const lensLookStep = (how: Pick<StepSpec, "id" | "text" | "when" | "minutes">, more: Partial<StepSpec> = {}): StepSpec => ({
  kind: "grade",
  phase: "as-found",
  title: "Inspect the lens.",
  unseen: NOT_SEEN,
  tools: ["torch"],
  ...LENS_IN,
  ...how,
  ...more,
  text: `${how.text} If it is clear, leave it. If you see haze, film, dots or a dark centre, it comes out, and the next steps show how.`,
});

export const lensLook: ProcedureSpec = {
  id: "lens-look",
  name: "Lens, inspection",
  area: "optics",
  station: "lens",
  steps: [
    lensLookStep(
      {
        id: "look",
        minutes: 0.5,
        when: { wideBore: true },
        text: "Lay the torch on the bed and hold the inspection mirror under the nozzle: its bore is wide enough to see the lens.",
      },
      { tools: ["torch", "small inspection mirror"] },
    ),
    lensLookStep({
      id: "look",
      minutes: 1,
      when: { wideBore: false, mount: ["ring", "thread", "fixed", "screw-cell", "twist-lock"] },
      text: "Nobody sees a lens through a {bore} nozzle. Mark how high the lens tube sits, then let it down with the lens in it and shine the torch up into it. Put it back to its mark, so that the focus stays.",
    }),
    lensLookStep({
      id: "look",
      minutes: 1,
      when: { wideBore: false, mount: ["captive", "magnet", "sliding-bore"] },
      text: "Nobody sees a lens through a {bore} nozzle. Take the cap off the head mirror and look down past the mirror with the torch beside your eye. Put the cap back on.",
    }),
  ],
};

export const lens: ProcedureSpec = {
  id: "lens",
  name: "Lens",
  area: "optics",
  station: "lens",
  opensHead: true,
  lensOut: true,
  steps: [
    {
      id: "out",
      minutes: 1,
      when: { mount: ["ring"] },
      drawing: "stack",
      title: "Take the ring out, then the lens.",
      text: "Turn the retaining ring out with a fingernail in its slots or with the lens tool. Note the order of the parts: ring, soft ring or spacer if there is one, lens. If the holder has two or three seats, note which one it was in. Tip the lens out onto the tissues. If it comes out with the cap it sticks to its soft ring: hold the cap low. {way} {place}",
      caution: ZNSE,
      tools: ["lens tool"],
      needs: { out: ["head"], in: ["lens"] },
      leaves: { out: "lens" },
      service: "seat-opened",
    },
    {
      id: "carriage-out",
      minutes: 1,
      when: { mount: ["captive", "magnet", "twist-lock", "screw-cell", "thread", "fixed"] },
      drawing: "screws",
      title: "Open the lens carriage.",
      text: "Loosen its captive screws: they stay in the carriage. Slide the carriage out level and tip the lens onto the tissues. Note the order of the parts and which side looked up. {way} {place}",
      caution: ZNSE,
      tools: ["screwdriver"],
      needs: { out: ["head"], in: ["lens"] },
      leaves: { out: "lens" },
      service: "seat-opened",
    },
    {
      id: "bore-out",
      minutes: 1,
      when: { mount: ["sliding-bore"] },
      drawing: "lens-tool",
      title: "Take the lens out with its two-ended tool.",
      text: "The lens slides in its bore to focus: that is how it is made. Push the gripping end up until it clicks, then draw straight down. {way} {place}",
      caution: ZNSE,
      tools: ["two-ended lens tool"],
      needs: { out: ["head"], in: ["lens"] },
      leaves: { out: "lens" },
      service: "seat-opened",
    },
    {
      ...found(
        "Hold it by its edge over the tissues with the torch behind it. A dark or coloured centre is dirt that burns in: such a lens is close to cracking. Then lay a tissue over it and put it out of the way.",
        `${ZNSE} ${CRACKED}`,
      ),
      needs: { out: ["lens"] },
    },
    {
      id: "clean",
      minutes: 2,
      asked: FROM_HAZE,
      drawing: "spiral",
      title: "Blow, brush, then make one damp pass.",
      text: "Take loose dust off first: dragged along, it scratches. Use a fresh swab, barely damp, or a ready-moistened lens wipe instead of swab and alcohol. For light dust distilled water on the swab is enough: drag it straight across once. Otherwise make small circles from the centre out, lifting the dirt. If it clings, let it soften. Use a second fresh swab for the other face. Draw a tissue across to take the film. An edge-gripping holder gives you both faces without touching them.",
      surface: "@own",
      agents: [["rubber-bulb", "canned-air"], ["soft-brush"], ...DAMP, ...DRY],
      caution: `Never blow at a cracked lens. ${ZNSE}`,
      needs: { out: ["lens"] },
      service: "cleaned",
    },
    { ...left, text: `${left.text} Then lay a tissue over it: it waits covered.`, needs: { out: ["lens"] } },
    again({
      title: "If it is baked on, soak it, use one fresh swab and inspect it again.",
      text: "Lay the lens in a small dish, pour alcohol just over it and put a lid on, for two to five minutes. Then use one fresh swab, a tissue and the torch. If the soak moved it, soak it once more and longer.",
      agents: [["isopropyl"], ["fresh-swab"]],
      caution: "Alcohol burns. Keep the dish covered and anything hot away.",
      timer: { seconds: 180, name: "soak" },
      needs: { out: ["lens"] },
    }),
    {
      id: "spare",
      kind: "choice",
      minutes: 1,
      asked: PAST_CLEANING,
      title: "This lens is worn out. Fit the spare.",
      text: "Put the old one by its edge into a sealed bag. Spots that stay are burnt in, and a crack only grows. Inspect the spare with the torch and note its source and grade: unbranded ones vary, so the ladder at the end of this round becomes your new baseline.",
      caution: CRACKED,
      supplies: ["spare lens"],
      needs: { out: ["lens"] },
      service: "replaced",
      seen: [
        { id: "fitted", label: "the spare goes in" },
        {
          id: "none",
          label: "no spare here",
          served: false,
          leavesOut: "@own",
          leads:
            "Leave the lens out and the machine unplugged. This round ends here. Order a lens; Today then offers the round that fits it.",
        },
      ],
    },
    {
      id: "seat",
      minutes: 0.5,
      last: true,
      title: "Wipe its seat and look up the tube.",
      text: "Take cobwebs, shavings and crumbs out before the lens goes back.",
      tools: ["torch"],
      needs: { out: ["lens"] },
      leaves: { toward: "@own" },
    },
    {
      id: "in",
      kind: "choice",
      minutes: 1,
      last: true,
      when: { mount: ["ring"] },
      drawing: "lens-sides",
      title: "Put the lens in, bulging side up, snug.",
      text: `${SIDES} Use the same seat as before. ${LEVEL} If it is not level, tap the holder; never poke the lens. Turn the ring until the soft ring grips, then stop: nothing may rattle, and your fingers must be able to undo it. {way}`,
      caution: ZNSE,
      tools: ["lens tool"],
      needs: { out: ["lens"] },
      leaves: { back: "lens" },
      seen: WAY_SEEN,
    },
    {
      id: "carriage-in",
      kind: "choice",
      minutes: 1,
      last: true,
      when: { mount: ["captive", "magnet", "twist-lock", "screw-cell", "thread", "fixed"] },
      drawing: "lens-sides",
      title: "Put the lens into its carriage, bulging side up, level.",
      text: `${SIDES} Hold it by its edge and lay it flat in the seat. Slide the carriage in until it stops and turn the captive screws finger tight. {way}`,
      caution: ZNSE,
      needs: { out: ["lens"] },
      leaves: { back: "lens" },
      seen: WAY_SEEN,
    },
    {
      id: "bore-in",
      kind: "choice",
      minutes: 1,
      last: true,
      when: { mount: ["sliding-bore"] },
      drawing: "lens-arrow",
      title: "Put the lens in, the right way round, until it seats.",
      text: "Follow the arrow on its edge, or the maker's manual: this lens is loaded from below. If it has no arrow, look at your reflection in each face: the bulging side shows your whole face, small, and goes in first, so that it looks up. Push it straight up with the other end of the tool until it seats. It may still slide: that is right. {way}",
      caution: ZNSE,
      tools: ["two-ended lens tool"],
      needs: { out: ["lens"] },
      leaves: { back: "lens" },
      seen: WAY_SEEN,
    },
  ],
};

export const nozzleLook: ProcedureSpec = {
  id: "nozzle-look",
  name: "Nozzle, inspection",
  area: "optics",
  station: "nozzle",
  steps: [
    {
      id: "look",
      kind: "grade",
      phase: "as-found",
      minutes: 0.5,
      title: "Inspect the nozzle from below.",
      text: "Its mouth must be round and open: gum at the rim turns the air aside. If it is sticky or worse, the round shows how to clean it, with the lens out of the way.",
      caution: "If it has just cut, it may be hot. Hover a finger near it before you touch it.",
    },
  ],
};

export const nozzle: ProcedureSpec = {
  id: "nozzle",
  name: "Nozzle",
  area: "optics",
  station: "nozzle",
  opensHead: true,
  steps: [
    {
      id: "clean",
      minutes: 2,
      drawing: "nozzle",
      title: "Clean the nozzle outside, its bore, and the end of the hose.",
      text: "Wipe the cone and the face. Twist a damp swab through the bore, then turn a {bore} drill through it by hand: it must pass without cutting. Swab the end of the air hose too: gum in there chokes the air as much as a closed nozzle, and acrylic makes gum fast.",
      surface: "nozzle-metal",
      agents: [
        ["isopropyl", "acetone"],
        ["fresh-swab", "pipe-cleaner"],
        ["dry-cloth", "fresh-swab"],
      ],
      meets: ["lens-out"],
      needs: { out: ["head"] },
      tools: ["drill of {bore}, turned by hand"],
      caution:
        "Use acetone only while the lens is out and away. Air the room and keep flames away. If the nozzle was warm after a cut, the beam is hitting it: report it in Trace.",
      service: "cleaned",
    },
  ],
};

/** What brings a mirror out: haze on it, or haze on the inner face of the window behind it. */
const OUT = { when: { inPlace: false }, leaves: { out: "@own" } } as const;

export const mirror: ProcedureSpec = {
  id: "mirror",
  name: "Mirror",
  area: "optics",
  station: "@station",
  opensSeat: { inPlace: false },
  steps: [
    found(
      `${SLOWLY} Hold the torch at an angle, and use the small mirror where you cannot see in. Look for a faint even haze, a film, dots or a dark spot in the centre.`,
      `${COATING} Do not touch its screws: they set the alignment.`,
    ),
    {
      id: "cap",
      minutes: 0.5,
      when: { head: true, movingHead: false },
      asked: FROM_HAZE,
      title: "Uncover {the part}.",
      text: "Take off its cap or its two screws. Note which way its stamp or notch looks before you move anything: the wrong way round burns the holder. {way}",
      drawing: "notch",
      leaves: { out: "head mirror's cap" },
    },
    {
      id: "out",
      minutes: 1,
      when: { mount: ["twist-lock"] },
      asked: FROM_HAZE,
      title: "Twist {the part} out of its mount.",
      text: "This mount keeps the alignment. Hold the rim, give it a quarter turn and draw it out. Keep your fingers off the glass.",
      drawing: "notch",
      leaves: OUT.leaves,
      service: "seat-opened",
    },
    {
      id: "captive-out",
      minutes: 1,
      when: { mount: ["captive"] },
      asked: FROM_HAZE,
      title: "Loosen the captive screws and take {the part} out.",
      text: "The screws stay in the mount, and the holder keeps the alignment. Note which way its stamp or notch looks: the wrong way round burns the holder. Carry it by the rim, glass up. {way}",
      drawing: "screws",
      tools: ["screwdriver"],
      leaves: OUT.leaves,
      service: "seat-opened",
    },
    {
      id: "magnet-out",
      minutes: 0.5,
      when: { mount: ["magnet"] },
      asked: FROM_HAZE,
      title: "Tilt {the part} off its magnets.",
      text: "Tilt it over one edge, not straight up. The notch shows how it goes back.",
      drawing: "notch",
      leaves: OUT.leaves,
      service: "seat-opened",
    },
    {
      id: "clean",
      minutes: 1.5,
      when: { inPlace: true },
      asked: FROM_HAZE,
      drawing: "drag",
      title: "Clean {the part} where it sits.",
      text: "Never touch its screws, so that the alignment stays. Blow first. Then drag one damp swab, or a ready-moistened lens wipe, straight across under its own weight, turning it as it goes. Follow with a dry one.",
      surface: "@own",
      agents: [["rubber-bulb", "canned-air"], ...DAMP],
      caution: COATING,
      service: "cleaned",
    },
    {
      id: "clean-out",
      minutes: 1.5,
      when: { inPlace: false },
      asked: FROM_HAZE,
      drawing: "spiral",
      title: "Clean {the part} on the tissues.",
      text: "Blow first. Make circles from the centre out with one damp swab, or a ready-moistened lens wipe, under its own weight. Take a second fresh one, then draw a tissue across to take the film.",
      surface: "@own",
      agents: [["rubber-bulb", "canned-air"], ...DAMP, ...DRY],
      caution: COATING,
      needs: { out: ["@own"] },
      service: "cleaned",
    },
    left,
    {
      ...again({
        text: "Make one pass with acetone on a fresh swab: it takes what alcohol leaves. It leaves a film of its own, so draw a tissue across after it. Then inspect it with the torch.",
        agents: [["acetone"], ["fresh-swab"], ["lens-tissue"]],
        caution: "Acetone is for solid molybdenum only, never for a coated mirror. It burns: air the room and keep flames away.",
      }),
      when: { coating: ["molybdenum"] },
    },
    {
      ...again({
        text: "Use one more fresh swab, no harder than the first. What stays now stays: say what you see.",
        agents: [...DAMP],
        caution: COATING,
      }),
      id: "again-coated",
      when: { coating: ["coated", "unknown", "metal", "znse"] },
    },
    {
      id: "back",
      minutes: 1,
      when: { inPlace: false },
      asked: FROM_HAZE,
      title: "Put {the part} back into its seat.",
      text: "Wipe crumbs from the seat. Hold the glass by the rim only and put notch or stamp where it was. In a magnet seat move it up and down, left and right, until it sits flush and centred. {way}",
      drawing: "notch",
      leaves: { back: "@own" },
    },
    {
      id: "cap-on",
      minutes: 0.5,
      when: { head: true, movingHead: false },
      asked: FROM_HAZE,
      title: "Cover {the part} again.",
      text: "Put its cap or its two screws back, finger tight.",
      leaves: { back: "head mirror's cap" },
    },
  ],
};

export const exitWindow: ProcedureSpec = {
  id: "window",
  name: "Exit window",
  area: "optics",
  station: "window",
  steps: [
    found(
      "Lay the torch on the bed and hold the small inspection mirror in front of the tube's end. Look for cracks behind the dirt and for a coloured centre: that is damage to the tube itself; plan for a new tube.",
      "Keep clear of the tube's terminals: they can hold a charge long after the power is off. If it is behind a panel that is not yours to open, this is for a qualified person.",
      1,
    ),
    {
      id: "clean",
      minutes: 2,
      asked: FROM_HAZE,
      drawing: "drag",
      title: "Clean the exit window: barely damp, no pressure.",
      text: "Use alcohol only, on a swab that is cut short or has a long handle, so that your hand's weight stays off the glass; or a ready-moistened lens wipe laid round a swab. Drag it straight across once, then a dry one. Never soak it: what runs behind it stays there.",
      surface: "exit-window",
      agents: [["rubber-bulb"], ["isopropyl", "lens-wipe"], ["fresh-swab"]],
      caution: "Keep clear of the tube's terminals. Do not press: the window is glued to the tube.",
      service: "cleaned",
    },
    left,
  ],
};

const INNER = [{ step: "inner", grades: [1, 3], said: ["anyway"] }] as const;

export const sideWindow: ProcedureSpec = {
  id: "side-window",
  name: "Side window",
  area: "optics",
  station: "side-window",
  steps: [
    {
      ...found(
        "It has two faces. Hold the torch at an angle through both. To tell on which face the dirt is, move your head: it shifts.",
        ZNSE,
      ),
      when: { behindMirror: false },
    },
    {
      id: "clean",
      minutes: 2,
      when: { behindMirror: false },
      asked: FROM_HAZE,
      drawing: "drag",
      title: "Clean both faces, a fresh swab each.",
      text: "Blow, then drag one damp swab or lens wipe straight across, then a dry one. Do the outer face first.",
      surface: "@own",
      agents: [["rubber-bulb", "canned-air"], ...DAMP],
      caution: ZNSE,
      service: "cleaned",
    },
    { ...left, when: { behindMirror: false } },
    {
      ...found(
        "Inspect its outer face with the torch at an angle. Dirt on the inner face shows as well: move your head and it shifts.",
        ZNSE,
      ),
      when: { behindMirror: true },
    },
    {
      id: "outer",
      minutes: 1,
      when: { behindMirror: true },
      asked: FROM_HAZE,
      drawing: "drag",
      title: "Clean its outer face.",
      text: "Blow, then drag one damp swab or lens wipe straight across, then a dry one. The inner face is done while the mirror before it is out: never reach in past a mirror that is in its seat.",
      surface: "@own",
      agents: [["rubber-bulb", "canned-air"], ...DAMP],
      caution: ZNSE,
    },
    {
      id: "inner",
      kind: "grade",
      phase: "as-found",
      minutes: 0.5,
      when: { behindMirror: true },
      asked: FROM_HAZE,
      title: "Inspect the inner face of {the part}.",
      text: "Look through the seat of the mirror that is out, with the torch at an angle. This is the face that gets forgotten.",
      caution: ZNSE,
      tools: ["torch"],
      anyway: ANYWAY,
    },
    {
      id: "inner-clean",
      minutes: 1.5,
      when: { behindMirror: true },
      asked: INNER,
      drawing: "drag",
      title: "Clean the inner face with a fresh swab.",
      text: "Reach in through the mirror's seat. Blow, then drag one damp swab or lens wipe straight across, then a dry one.",
      surface: "@own",
      agents: [["rubber-bulb", "canned-air"], ...DAMP],
      caution: ZNSE,
      service: "cleaned",
    },
    {
      ...left,
      when: { behindMirror: true },
      asked: [...FROM_HAZE, ...INNER],
      title: "Inspect both faces of {the part} again, now that they are clean.",
    },
  ],
};

/** A mirror that is off its seat is looked at before it goes back, and cleaned as it is on the tissues if it wants it. */
export const mirrorInHand: readonly StepSpec[] = [
  found("Lift it off its seat and hold it by its edge under the torch. Look for haze, film, dots or a dark spot in the centre.", COATING),
  ...mirror.steps.filter((s) => s.id === "clean-out").map(({ when: _, needs: __, ...clean }) => clean),
  left,
];
