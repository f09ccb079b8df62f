/** Lens, nozzle, mirrors and windows. Written for someone standing there in gloves: short, exact, the reason where it prevents harm. */
import type { ProcedureSpec, Seen, StepSpec } from "#core/rounds";

const ZNSE = "Gloves on. Zinc selenide is toxic if chipped or swallowed; edges only.";
const CRACKED = "Cracked? Do not blow, wipe or vacuum: mask, pick it up damp, sealed bag, hazardous waste.";
const COATING = "No pressure: coatings scratch. Chipped or burnt through: photo, and stop.";
const SLOWLY = "Move the gantry slowly by hand: fast pushing drives current back into the electronics.";

const WAY_SEEN: readonly Seen[] = [
  { id: "right", label: "right way round, level, snug" },
  {
    id: "unsure",
    label: "not sure",
    leads: "Take it out again and mirror your face in it: a bulge shows it whole and small. Upside down it loses a quarter of the power.",
  },
];

const DAMP = [["isopropyl", "optical-fluid"], ["fresh-swab"]] as const;
const DRY = [["lens-tissue"]] as const;
/** Contact wears a coating: what is clear is left alone, what is damaged is past cleaning. */
const FROM_HAZE = [{ step: "found", grades: [1, 3] }] as const;
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
  title: "Look at {the part} before you wipe it.",
  text: `${text} Clear: leave it alone, contact wears a coating.`,
  caution,
  tools: ["torch"],
});
const left: StepSpec = {
  id: "left",
  kind: "grade",
  phase: "as-left",
  minutes: 0.5,
  asked: FROM_HAZE,
  title: "And now? Grade {the part} as you leave it.",
  text: "Same torch, same angle. A yellow swab from a faint haze is normal; a dark centre that stayed is not.",
};
/** Once more, and the grade that counts. */
const again = (how: Pick<StepSpec, "text" | "agents"> & Partial<StepSpec>): StepSpec => ({
  id: "again",
  kind: "grade",
  phase: "as-left",
  minutes: 1.5,
  asked: STILL_HAZED,
  title: "Haze left? Once more, then grade it again.",
  surface: "@own",
  ...how,
});

export const lensLook: ProcedureSpec = {
  id: "lens-look",
  name: "Lens, a look",
  area: "optics",
  station: "lens",
  steps: [
    {
      id: "look",
      kind: "grade",
      phase: "as-found",
      minutes: 0.5,
      title: "Ten seconds: look up at the lens.",
      text: "Torch on the bed, small inspection mirror under the nozzle or the lens tube. Clear: leave it. A veil, a frost, dots or a dark centre: it comes out, and the round shows how.",
      tools: ["torch", "small inspection mirror"],
    },
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
      title: "Ring out, lens out.",
      text: "Turn the retaining ring out with a fingernail in its slots or with the lens tool. Note the stack: ring, soft ring or spacer where there is one, lens. Some holders have two or three focal seats: note which. Tip it out onto the tissues. {way} {place}",
      caution: ZNSE,
      tools: ["lens tool"],
      service: "seat-opened",
    },
    {
      id: "carriage-out",
      minutes: 1,
      when: { mount: ["captive", "magnet", "twist-lock", "screw-cell", "thread", "fixed"] },
      drawing: "screws",
      title: "Open the lens carriage.",
      text: "Loosen its captive screws: they stay in the carriage. Slide the carriage out level, then tip the lens onto the tissues. Note the stack and which side looked up. {way} {place}",
      caution: ZNSE,
      tools: ["screwdriver"],
      service: "seat-opened",
    },
    {
      id: "bore-out",
      minutes: 1,
      when: { mount: ["sliding-bore"] },
      drawing: "lens-tool",
      title: "Lens out with its two-ended tool.",
      text: "The lens slides in its bore: that is how it focuses, not a fault. Push the gripping end up until it clicks, then draw straight down. {way} {place}",
      caution: ZNSE,
      tools: ["two-ended lens tool"],
      service: "seat-opened",
    },
    found(
      "Hold it by its edge over the tissues, torch from behind. A dark or coloured centre is dirt burning in: that lens is close to cracking. Then a tissue over it, and out of the way.",
      `${ZNSE} ${CRACKED}`,
    ),
    {
      id: "clean",
      minutes: 2,
      asked: FROM_HAZE,
      drawing: "spiral",
      title: "Blow, brush, then one damp pass.",
      text: "Loose dust first: wiped, it scratches. Fresh swab, barely damp. Light dust: one straight drag. Otherwise small circles from the centre out, lifting, not scrubbing. Let it soften if it clings. A second fresh swab for the other face. Dry with tissue drawn across, to take the film. An edge-gripping holder gives both faces without touching them.",
      surface: "@own",
      agents: [["rubber-bulb", "canned-air"], ["soft-brush"], ...DAMP, ...DRY],
      caution: `Never blow at a cracked lens. ${ZNSE}`,
      service: "cleaned",
    },
    { ...left, text: `${left.text} Then a tissue over it: it waits covered.` },
    again({
      title: "Baked on? Soak it, one fresh swab, grade it again.",
      text: "Lens lying in a small dish, alcohol just over it, lid on the dish, two to five minutes. Then one fresh swab, tissue, and the torch.",
      agents: [["isopropyl"], ["fresh-swab"]],
      caution: "Flammable: dish covered, nothing hot near.",
      timer: { seconds: 120, name: "soak" },
    }),
    {
      id: "spare",
      kind: "choice",
      minutes: 1,
      asked: PAST_CLEANING,
      title: "This lens is done: the spare goes in.",
      text: "Old one by its edge into a sealed bag. Spots that stay are burnt in, and a crack only grows. Look at the spare under the torch and note its source and grade: unbranded ones vary, so cut a new baseline ladder as this round's proof.",
      caution: CRACKED,
      service: "replaced",
      seen: [
        { id: "fitted", label: "the spare goes in" },
        {
          id: "none",
          label: "no spare here",
          served: false,
          leads:
            "Leave the lens out and the machine unplugged. Today says “do not fire” until a lens was fitted: order one, then start its replacement from Today.",
        },
      ],
    },
    {
      id: "seat",
      minutes: 0.5,
      last: true,
      title: "Wipe its seat, look up the tube.",
      text: "Cobwebs, shavings, crumbs from the work above: out with them before the lens goes back.",
      tools: ["torch"],
    },
    {
      id: "in",
      kind: "choice",
      minutes: 1,
      last: true,
      when: { mount: ["ring"] },
      drawing: "lens-sides",
      title: "Lens in, bulge up, snug.",
      text: "Mirror a line of print in each face: the bulging one shows it whole and small, and looks up, at the incoming beam. Holder upside down, same focal seat as before; screw the tube onto it so that the lens lies evenly. Not level? Tap the holder, never poke. Ring until the soft ring bites, then stop: it must not rattle, and must come out tomorrow. {way}",
      caution: ZNSE,
      tools: ["lens tool"],
      seen: WAY_SEEN,
    },
    {
      id: "carriage-in",
      kind: "choice",
      minutes: 1,
      last: true,
      when: { mount: ["captive", "magnet", "twist-lock", "screw-cell", "thread", "fixed"] },
      drawing: "lens-sides",
      title: "Lens in its carriage, bulge up, level.",
      text: "Mirror a line of print in each face: the bulging one shows it whole and small, and looks up, at the incoming beam. By its edge, flat in the seat; carriage in until it stops, captive screws finger tight. {way}",
      caution: ZNSE,
      seen: WAY_SEEN,
    },
    {
      id: "bore-in",
      kind: "choice",
      minutes: 1,
      last: true,
      when: { mount: ["sliding-bore"] },
      drawing: "lens-arrow",
      title: "Lens in by its arrow, until it seats.",
      text: "Loaded from below: the arrow on its edge, or the maker's manual, says which face goes in first. With the other end of the tool push straight up until it seats. It still slides: that is right. {way}",
      caution: ZNSE,
      tools: ["two-ended lens tool"],
      seen: WAY_SEEN,
    },
  ],
};

export const nozzleLook: ProcedureSpec = {
  id: "nozzle-look",
  name: "Nozzle, a look",
  area: "optics",
  station: "nozzle",
  steps: [
    {
      id: "look",
      kind: "grade",
      phase: "as-found",
      minutes: 0.5,
      title: "Look at the nozzle from below.",
      text: "Is its mouth round and open? Gum at the rim turns the air aside. Sticky or worse: the round shows how to clean it, with the lens out and away.",
      caution: "Just cut? It can be hot: hover first.",
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
      title: "Nozzle: outside, the bore, the hose end.",
      text: "Wipe the cone and the face. Twist a damp swab through the bore, then turn a {bore} mm drill through by hand: it should pass without cutting. Swab the end of the air hose too: gum in there chokes the air as well as a closed nozzle does, and acrylic makes gum fast.",
      surface: "nozzle-metal",
      agents: [
        ["isopropyl", "acetone"],
        ["fresh-swab", "pipe-cleaner"],
        ["dry-cloth", "fresh-swab"],
      ],
      meets: ["lens-out"],
      tools: ["drill of {bore} mm, turned by hand"],
      caution:
        "Acetone only while the lens is out and away; ventilate, no flame. A nozzle that was warm after a cut: the beam clips it, say so in Trace.",
      service: "cleaned",
    },
  ],
};

export const mirror: ProcedureSpec = {
  id: "mirror",
  name: "Mirror",
  area: "optics",
  station: "@station",
  opensSeat: { inPlace: false },
  steps: [
    found(
      `${SLOWLY} Torch at an angle, the small mirror where you cannot see in: an even veil, a deposit, dots, a dark spot in the centre?`,
      `${COATING} Its screws are the aim: fingers off.`,
    ),
    {
      id: "cap",
      minutes: 0.5,
      when: { head: true },
      asked: FROM_HAZE,
      title: "Uncover {the part}.",
      text: "Cap or two screws. Note which way its stamp or notch looks before anything moves: the wrong way round burns the holder. {way}",
      drawing: "notch",
    },
    {
      id: "out",
      minutes: 1,
      when: { mount: ["twist-lock"] },
      asked: FROM_HAZE,
      title: "Twist {the part} out of its cell.",
      text: "This cell keeps its aim. Hold the rim, quarter turn, draw it out. Fingers off the glass.",
      drawing: "notch",
      service: "seat-opened",
    },
    {
      id: "captive-out",
      minutes: 1,
      when: { mount: ["captive"] },
      asked: FROM_HAZE,
      title: "Loosen the captive screws, take {the part} out.",
      text: "They stay in the frame; the cell keeps its aim. Carry it glass up, by the rim.",
      drawing: "screws",
      tools: ["screwdriver"],
      service: "seat-opened",
    },
    {
      id: "magnet-out",
      minutes: 0.5,
      when: { mount: ["magnet"] },
      asked: FROM_HAZE,
      title: "Tilt {the part} off its magnets.",
      text: "Over one edge, not straight up. The notch says how it goes back.",
      drawing: "notch",
      service: "seat-opened",
    },
    {
      id: "clean",
      minutes: 1.5,
      when: { inPlace: true },
      asked: FROM_HAZE,
      drawing: "drag",
      title: "Clean {the part} where it sits.",
      text: "Never touch its screws: its aim stays. Blow first, then one damp swab dragged straight across under its own weight, turning as it goes. A second, dry.",
      surface: "@own",
      agents: [["rubber-bulb"], ...DAMP],
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
      text: "Blow first. One damp swab, circles from the centre out, under its own weight; a second fresh one; tissue drawn across to take the film.",
      surface: "@own",
      agents: [["rubber-bulb"], ...DAMP, ...DRY],
      caution: COATING,
      service: "cleaned",
    },
    left,
    {
      ...again({
        text: "Acetone on a fresh swab, one pass: it takes what alcohol leaves. It leaves a film of its own, so tissue drawn across after it. Then the torch.",
        agents: [["acetone"], ["fresh-swab"], ["lens-tissue"]],
        caution: "Solid molybdenum only, never a coated mirror. Flammable: ventilate, no flame.",
      }),
      when: { coating: ["molybdenum"] },
    },
    {
      ...again({
        text: "One more fresh swab, no harder than the first. What stays now stays: grade what you see.",
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
      title: "{part} back into its seat.",
      text: "Wipe crumbs from the seat. Glass by the rim only, notch or stamp where it was. In a magnet seat wiggle up and down, left and right, until it sits flush and centred. {way}",
      drawing: "notch",
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
      "Torch on the bed, small inspection mirror in front of the tube's end. Look for cracks behind the debris and for a coloured centre: that one is the tube's own, and on its way to a new tube.",
      "Keep clear of the tube's terminals: the supply stays charged long after power off. Behind a panel that is not yours to open, this is for a qualified person.",
      1,
    ),
    {
      id: "clean",
      minutes: 2,
      asked: FROM_HAZE,
      drawing: "drag",
      title: "Exit window: barely damp, no pressure.",
      text: "Alcohol only. A swab cut short, straight across, once; then a dry one. Never soak it: what runs behind it stays.",
      surface: "exit-window",
      agents: [["rubber-bulb"], ["isopropyl"], ["fresh-swab"]],
      caution: "Keep clear of the tube's terminals. No pressure: the window is glued to the tube.",
      service: "cleaned",
    },
    left,
  ],
};

export const sideWindow: ProcedureSpec = {
  id: "side-window",
  name: "Side window",
  area: "optics",
  station: "side-window",
  steps: [
    found("Two faces. Torch at an angle through both; dust on the inner face looks like dust on the outer: move your head to tell.", ZNSE),
    {
      id: "clean",
      minutes: 2,
      asked: FROM_HAZE,
      drawing: "drag",
      title: "Both faces, a fresh swab each.",
      text: "Blow, then one damp swab straight across, then a dry one. Outer face first. While the mirror before it is out, its seat is the way to the inner face, the forgotten one.",
      surface: "@own",
      agents: [["rubber-bulb"], ...DAMP],
      caution: ZNSE,
      service: "cleaned",
    },
    left,
  ],
};
