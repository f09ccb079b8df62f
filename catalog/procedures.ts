/**
 * What a person does at the machine, step by step. Written for someone standing there in gloves: short, exact, with the reason
 * where it prevents harm. `@k` in ids and {part} in texts stand for a mirror's number and name.
 */
import type { Procedure, RoundFrame, Step } from "#core/rounds";

const SWABS = ["fresh swab", "lens tissue", "rubber bulb"] as const;
const ZNSE = "Gloves on. Zinc selenide is toxic if chipped or swallowed; edges only.";

export const frame: RoundFrame = {
  before: [
    {
      id: "make-safe",
      part: "Make safe",
      kind: "confirm",
      minutes: 2,
      drawing: "unplug",
      title: "Make it safe before you open it.",
      text: "Jog the head and table to where you need them first. Then power off and unplug at the wall. Wait as the manual says, then open the lid. Never defeat an interlock to look inside.",
      caution:
        "The tube supply stays charged at tens of kilovolts after it is unplugged. Touch nothing electrical: the maker's manual and a qualified person come first.",
      tick: "Unplugged, and I waited as the manual says",
    },
    {
      id: "lay-out",
      part: "Lay out",
      kind: "do",
      minutes: 1.5,
      title: "Wash hands, fresh gloves, soft surface.",
      text: "Lay out three or four tissues: they catch screws and keep the lens off the bench. Put down only the agents you will use, and close the alcohol bottle after each pour.",
      caution: "Flammable: no flame, no sparks, machine unplugged until everything has dried.",
      tools: ["gloves", "torch", "lens tissue", "isopropyl alcohol", "fresh swab"],
    },
  ],
  reassemble: [
    {
      id: "reassemble",
      part: "Together again",
      kind: "do",
      minutes: 2,
      title: "Put the head together, finger tight.",
      text: "Same order as it came apart. Mind the fine thread. Give the air hose a gentle tug: it must hold. Tuck the cable where the carriage cannot catch it.",
      drawing: "stack",
    },
    {
      id: "focus-gauge",
      part: "Together again",
      kind: "do",
      minutes: 1,
      drawing: "gauge",
      station: "focus",
      service: "adjusted",
      title: "Set the focus with the gauge.",
      text: "Still unplugged, where the machine allows: gauge between nozzle and sheet, let the head down onto it, lock. If the machine focuses by itself, do it after power on instead.",
    },
  ],
  powerOn: [
    {
      id: "power-on",
      part: "Power on",
      kind: "confirm",
      minutes: 2,
      title: "Covers on, everyone clear, power on.",
      text: "All covers and panels back. Ten minutes since the last alcohol, lid open, no smell left. Then plug in, power on, and see the coolant flow before anything fires.",
      caution: "Never fire with the lid or a panel open. Never fire without coolant flow seen or confirmed.",
      tick: "Covers on, dry, coolant flow seen",
      timer: { seconds: 600, name: "drying" },
    },
  ],
  powerBack: {
    id: "power-back",
    part: "Power back",
    kind: "confirm",
    minutes: 0.5,
    station: "settings",
    service: "adjusted",
    title: "Put the power limit back.",
    text: "If the panel was turned down for a test pulse, turn it up to your usual setting now. It is the cheapest fault there is, and the most forgotten.",
    tick: "The limit is at its usual setting",
  },
  proof: {
    id: "proof",
    part: "Proof",
    kind: "proof",
    minutes: 6,
    title: "Cut a ladder: did it help?",
    text: "A row of small shapes at one power, each a step faster. Poke each one once and say what it did.",
    caution: "Goggles rated for 10.6 µm, exhaust on, stay with the cut, extinguisher at hand.",
  },
};

const way = (id: string, part: string): Step => ({
  id,
  part,
  kind: "choice",
  minutes: 0.5,
  drawing: "lens-sides",
  station: "lens",
  title: "Bulge up, towards the mirror.",
  text: "Mirror a line of print in each face. The bulging face shows your face whole and small: it looks up, at the incoming beam. In a flat lower face print stays straight; in a hollow one it bends. Heads that load from below: follow the arrow on the edge.",
});

/** Looks, cleans and looks again; the shape every optic shares. */
const optic = (o: {
  id: string;
  part: string;
  station: string;
  surface: string;
  name: string;
  look: string;
  clean: string;
  caution: string;
  lookMinutes: number;
  cleanMinutes: number;
  timer?: Step["timer"];
  drawing: string;
}): readonly Step[] => [
  {
    id: `${o.id}-found`,
    part: o.part,
    kind: "grade",
    phase: "as-found",
    station: o.station,
    minutes: o.lookMinutes,
    title: `Look at ${o.name} before you wipe it.`,
    text: o.look,
    caution: o.caution,
    tools: ["torch"],
  },
  {
    id: `${o.id}-clean`,
    part: o.part,
    kind: "do",
    station: o.station,
    minutes: o.cleanMinutes,
    title: `Clean ${o.name}.`,
    text: o.clean,
    surface: o.surface,
    agents: ["isopropyl alcohol", ...SWABS],
    caution: o.caution,
    timer: o.timer,
    drawing: o.drawing,
    service: "cleaned",
  },
  {
    id: `${o.id}-left`,
    part: o.part,
    kind: "grade",
    phase: "as-left",
    station: o.station,
    minutes: 0.5,
    title: `And now? Grade ${o.name} as you leave it.`,
    text: "Same torch, same angle. A yellow swab from a faint haze is normal; a dark centre that stayed is not.",
  },
];

const CLEAN_STROKES =
  "Blow the loose dust off. Fresh swab, alcohol, small circles from the centre out; lift, do not scrub. Let it soften if it clings. New swab, then dry with tissue to take the film. Never one swab on two optics.";

export const lens: Procedure = {
  id: "lens",
  name: "Lens",
  state: "apart",
  opensHead: true,
  steps: [
    {
      id: "lens-out",
      part: "Lens",
      kind: "do",
      minutes: 1.5,
      drawing: "stack",
      station: "lens",
      tools: ["lens tool"],
      title: "Take the lens out.",
      text: "Press the hose collar in and pull the air hose off. Nozzle off, then the elbow. Turn the retaining ring out with a fingernail or the lens tool and note the stack: ring, soft ring, lens. Tip it out onto the tissues.",
      caution: ZNSE,
      service: "seat-opened",
    },
    ...optic({
      id: "lens",
      part: "Lens",
      station: "lens",
      surface: "znse-optic",
      name: "the lens",
      lookMinutes: 0.5,
      cleanMinutes: 2,
      drawing: "spiral",
      caution: ZNSE,
      look: "Hold it by the edge over the tissues, torch from behind. A dark or coloured centre is dirt burning in: that lens is close to cracking.",
      clean: `${CLEAN_STROKES} Baked on? Let it lie in alcohol for two to five minutes.`,
      timer: { seconds: 120, name: "soak" },
    }),
    way("lens-way", "Lens"),
  ],
};

export const nozzle: Procedure = {
  id: "nozzle",
  name: "Nozzle",
  state: "apart",
  opensHead: true,
  steps: [
    {
      id: "nozzle-clean",
      part: "Nozzle",
      kind: "do",
      minutes: 2,
      station: "nozzle",
      service: "cleaned",
      surface: "nozzle-metal",
      agents: ["acetone", "swab"],
      tools: ["bore-size drill"],
      drawing: "nozzle",
      title: "Swab the nozzle, gauge the bore.",
      text: "Outside, then inside with a twisting swab. Turn a drill of the bore's own size through it by hand: it should pass without cutting. Swab the end of the air hose too.",
      caution: "Acetone only while the lens is out and away. Ventilate.",
    },
  ],
};

/** The head mirror stays in its seat. */
export const headMirror: Procedure = {
  id: "mirror-head",
  name: "{part}",
  state: "apart",
  steps: optic({
    id: "mirror@k",
    part: "{part}",
    station: "mirror-@k",
    surface: "coated-mirror",
    name: "{part}",
    lookMinutes: 0.5,
    cleanMinutes: 1.5,
    drawing: "drag",
    look: "Cap off. Leave the mirror in its seat: its aim stays. Shine the torch in at an angle and look for a veil, dots or a burnt spot.",
    clean:
      "Leave it in its seat. Blow first, then one damp swab dragged straight across under its own weight, turning as it goes. A second, dry. Cap back on.",
    caution: "No pressure: coatings scratch. Chipped or burnt through: photo, and stop.",
  }),
};

/** Fixed and gantry mirrors, cleaned in place. */
export const backMirror: Procedure = {
  id: "mirror-back",
  name: "{part}",
  state: "apart",
  steps: optic({
    id: "mirror@k",
    part: "{part}",
    station: "mirror-@k",
    surface: "coated-mirror",
    name: "{part}",
    lookMinutes: 2,
    cleanMinutes: 2,
    drawing: "drag",
    look: "Move the gantry slowly by hand to reach it: fast pushing drives current back into the electronics. Torch at an angle: veil, deposit, dots.",
    clean: "Leave it in its cell and touch no screw: its aim stays. Blow first, then one damp swab dragged straight across. A second, dry.",
    caution: "No pressure: coatings scratch. A panel not marked for owners may touch the warranty.",
  }),
};

export const exitWindow: Procedure = {
  id: "window",
  name: "Exit window",
  state: "apart",
  steps: optic({
    id: "window",
    part: "Exit window",
    station: "window",
    surface: "znse-optic",
    name: "the exit window",
    lookMinutes: 2,
    cleanMinutes: 2,
    drawing: "drag",
    look: "Torch on the bed, small inspection mirror in front of the tube. Look for cracks behind the debris and for a coloured centre: that one is the tube's own.",
    clean: "Alcohol only. A shortened swab, barely damp, no pressure, straight across; then a dry one. Never soak it.",
    caution:
      "Keep clear of the tube's terminals: tens of kilovolts, charged long after power off. Behind a closed panel this is for a qualified person.",
  }),
};

const simple = (
  id: string,
  name: string,
  state: Procedure["state"],
  step: Omit<Step, "id" | "part" | "kind"> & { kind?: Step["kind"] },
  more: Partial<Procedure> = {},
): Procedure => ({
  id,
  name,
  state,
  ...more,
  steps: [{ kind: "do", ...step, id: `${id}-do`, part: name }],
});

const QUALIFIED = "This one is not for owners: the maker's manual, local codes and a qualified person come first.";

/** Repairs that are not a plain clean, keyed by the repair they carry out. */
export const repairProcedures: Readonly<Record<string, Procedure>> = {
  "tube-supplier": simple("tube-supplier", "Tube", "running", {
    minutes: 45,
    title: "Ask the tube's supplier.",
    text: "Give them the hours, the current at your usual power, the watts and this case. A tube swap is for someone trained; note the hours when it is done, and cut a new baseline ladder.",
    caution: QUALIFIED,
    station: "tube",
    service: "replaced",
  }),
  "supply-qualified": simple("supply-qualified", "Tube supply", "running", {
    minutes: 60,
    title: "Have the supply looked at.",
    text: "Low current at full setting is the electrical side. Call a qualified person, and give them the current you read from the machine's own meter.",
    caution: `High voltage kills. ${QUALIFIED}`,
    station: "supply",
    service: "adjusted",
  }),
  "bleed-coolant": simple("bleed-coolant", "Coolant", "running", {
    minutes: 8,
    title: "Tilt the bubbles out.",
    text: "Pump running, beam off. Tilt the machine or the tube's outlet a little until the last bubble has left; top the bucket up and put its lid on.",
    caution: "Water near mains: dry hands, nothing firing.",
    station: "coolant",
    service: "adjusted",
  }),
  "power-back": simple("power-back-repair", "Settings", "running", {
    minutes: 1,
    title: "Set the power limit where it was.",
    text: "Look it up in your log, not in memory.",
    station: "settings",
    service: "adjusted",
  }),
  "settings-right": simple("settings-right", "Settings", "running", {
    minutes: 2,
    title: "Put speed, power and passes back.",
    text: "Compare the file with the setting that used to work, line by line.",
    station: "settings",
    service: "adjusted",
  }),
  "cool-down": simple("cool-down", "Coolant", "running", {
    minutes: 20,
    title: "Let the coolant come down to 20 °C.",
    text: "Stop firing. Clean the chiller's grille, move it out of the sun, or change part of the bucket for cooler water.",
    caution: "Above 30 °C do not fire. Below the room's dew point the tube sweats: not too cold either.",
    station: "coolant",
    service: "adjusted",
  }),
  "coolant-flow": simple("coolant-flow", "Coolant", "apart", {
    minutes: 8,
    title: "Find what holds the water back.",
    text: "Follow the hose from the pump: kinks, a pinched bend, a slimy strainer. Clear it and look at the flow at the return.",
    caution: "Pump unplugged before a hose comes off. Wipe spills before anything is plugged in.",
    station: "coolant",
    service: "adjusted",
  }),
  "change-coolant": simple("change-coolant", "Coolant", "apart", {
    minutes: 30,
    title: "Change the coolant.",
    text: "Pump unplugged, return line into a pail; run the pump until it draws air, unplug again. Glycol in first, then distilled water. Run, top up once the tube is full, tilt out bubbles, lid on.",
    caution: "Propylene, not ethylene glycol. Old coolant goes by local rules. Never fire without flow seen.",
    station: "coolant",
    service: "replaced",
  }),
  "clean-fins": simple("clean-fins", "Cooling fins", "apart", {
    minutes: 15,
    title: "Blow the fins clear.",
    text: "Low-pressure air through the fins until daylight shows.",
    surface: "fins",
    caution: "Keep clear of terminals.",
    station: "fins",
    service: "cleaned",
  }),
  "replace-side-window": simple("replace-side-window", "Side window", "apart", {
    minutes: 8,
    title: "Fit the spare window.",
    text: "Old one out by its edge onto tissue, seat wiped, new one in by its edge.",
    caution: ZNSE,
    station: "side-window",
    service: "replaced",
  }),
  "replace-mirror@k": simple(
    "replace-mirror@k",
    "{part}",
    "apart",
    {
      minutes: 12,
      title: "Fit a spare for {part}.",
      text: "Photo of the way round first. Old one out, seat wiped clean of crumbs, new one in by its edge, flush and centred.",
      caution: "Coated side outward, fingers off it.",
      station: "mirror-@k",
      service: "replaced",
    },
    { lowPower: true },
  ),
  "seat-mirror@k": simple(
    "seat-mirror@k",
    "{part}",
    "apart",
    {
      minutes: 6,
      title: "Seat {part} again.",
      text: "Lift it, wipe the seat, turn it to its stamp or notch. In a magnet seat wiggle up and down, left and right, until it sits flush and centred.",
      station: "mirror-@k",
      service: "seat-opened",
    },
    { lowPower: true },
  ),
  "aim@k": simple(
    "aim@k",
    "Aim of {part}",
    "running",
    {
      minutes: 18,
      drawing: "tape",
      title: "Bring the two marks together.",
      text: "Packing tape on the frame of the next mirror, off the glass. Power 15 to 20 %, panels on, lid closed for every pulse. Mark near, mark far. Turn one screw of {part} at a time by an eighth, until the marks meet. Back to the last good state if it runs away. Look at the optics afterwards: tape smoke lands on them.",
      caution:
        "Invisible beam: nobody's eyes or hands inside, lid closed, interlock working, goggles rated for 10.6 µm. Test a scrap of the tape first: some catch fire.",
      tools: ["packing tape", "marker pen", "screw key"],
      station: "mirror-@k",
      service: "aimed",
    },
    { lowPower: true },
  ),
  "replace-lens": simple(
    "replace-lens",
    "Lens",
    "apart",
    {
      minutes: 4,
      title: "Fit the spare lens.",
      text: "Old one out by its edge. Wipe the seat and look up the tube for cobwebs and shavings. New one in, bulge up, ring until the soft ring bites. Note source and grade: unbranded ones vary.",
      caution: "A cracked optic is never blown at, wiped or vacuumed: mask, pick up damp, sealed bag, hazardous waste.",
      drawing: "lens-sides",
      station: "lens",
      service: "replaced",
    },
    { opensHead: true },
  ),
  "turn-lens": simple(
    "turn-lens",
    "Lens",
    "apart",
    {
      minutes: 3,
      title: "Turn the lens bulge up.",
      text: "The bulging face looks up, towards the mirror; flat or hollow face down. Ring until the soft ring bites, then stop.",
      caution: ZNSE,
      drawing: "lens-sides",
      station: "lens",
      service: "seat-opened",
    },
    { opensHead: true },
  ),
  "seat-lens": simple(
    "seat-lens",
    "Lens",
    "apart",
    {
      minutes: 3,
      title: "Seat the lens, snug, in its usual place.",
      text: "Same focal seat as always. Holder upside down, tube screwed onto it so that the lens lies level; tap the holder, never poke. Ring until the soft ring bites: no rattle.",
      caution: ZNSE,
      drawing: "stack",
      station: "lens",
      service: "seat-opened",
    },
    { opensHead: true },
  ),
  "set-focus": simple("set-focus", "Focus", "running", {
    minutes: 2,
    drawing: "gauge",
    title: "Set the focus with the gauge.",
    text: "On the sheet you cut, not on the bed.",
    station: "focus",
    service: "adjusted",
  }),
  "centre-nozzle": simple(
    "centre-nozzle",
    "Nozzle",
    "running",
    {
      minutes: 10,
      drawing: "tape",
      title: "Centre the beam in the nozzle.",
      text: "Tape over the nozzle's end, short pulse at 15 to 20 %, lid closed. Shift the lens tube or nozzle until the hole sits in the ring.",
      caution: "Lid closed for every pulse. The nozzle may be hot: beam off, hover first.",
      station: "nozzle",
      service: "adjusted",
    },
    { lowPower: true },
  ),
  "restore-air": simple("restore-air", "Assist air", "apart", {
    minutes: 4,
    title: "Get the air back.",
    text: "Hose off at the collar: swab its end, look through it. Gum inside means a new piece. Clean the pump's or fan's filter. Hose on, tug it, feel the flow.",
    station: "air",
    service: "cleaned",
  }),
  "level-bed": simple("level-bed", "Bed", "apart", {
    minutes: 8,
    title: "Level the bed.",
    text: "Crumbs out from under the honeycomb. Gauge at four corners and the middle, shim or screw until all agree.",
    station: "bed",
    service: "adjusted",
  }),
  "other-sheet": simple("other-sheet", "Material", "running", {
    minutes: 2,
    title: "Take another sheet.",
    text: "One known to cut, flat and dry. Put the doubtful one aside and note its batch.",
    station: "material",
    service: "replaced",
  }),
  "clean-exhaust": simple("clean-exhaust", "Exhaust", "apart", {
    minutes: 20,
    title: "Clean fan and duct.",
    text: "Note the flow arrow and the terminal side. Blow out, degrease blades on both sides, spin: no wobble. Back with the arrow away from the machine, both clamps, tug, and check that it draws.",
    surface: "fan",
    caution: "Fan unplugged. Sharp duct edges; the rotor can drop out.",
    station: "exhaust",
    service: "cleaned",
  }),
  "turn-fan": simple("turn-fan", "Exhaust", "apart", {
    minutes: 12,
    title: "Turn the fan round.",
    text: "The arrow points away from the machine. Both clamps on both flanges, tug, check that it draws.",
    caution: "Fan unplugged. Sharp duct edges.",
    station: "exhaust",
    service: "adjusted",
  }),
  "swap-prefilter": simple("swap-prefilter", "Pre-filter", "apart", {
    minutes: 3,
    title: "Swap the pre-filter pad.",
    text: "Cut to size, corners cropped at the screws.",
    caution: "Dust mask on.",
    station: "exhaust",
    service: "cleaned",
  }),
  "clean-rails": simple("clean-rails", "Rails", "apart", {
    minutes: 10,
    title: "Wipe the rails.",
    text: "Push the head along slowly by hand and take what gathers at the ends of travel. Then a trace of dry-film lubricant from the cloth.",
    surface: "rails",
    station: "motion",
    service: "cleaned",
  }),
  "tension-belt": simple("tension-belt", "Belts", "apart", {
    minutes: 10,
    title: "Take up the slack belt.",
    text: "By its tensioner only, as the manual says; never pry a belt off its wheel. No lubricant.",
    station: "motion",
    service: "adjusted",
  }),
  "grease-bearings": simple("grease-bearings", "Bearings", "apart", {
    minutes: 8,
    title: "A little bearing grease.",
    text: "Where it is reachable, then run back and forth by hand, slowly.",
    station: "motion",
    service: "adjusted",
  }),
  "clean-encoder": simple("clean-encoder", "Encoder strip", "apart", {
    minutes: 10,
    title: "Wipe the strip, both faces.",
    text: "Loosen, do not remove, the cover screws; lift the reader clear without touching the strip. Swab turned as it goes.",
    surface: "strip",
    caution: "Reader back square, cable tucked where it cannot snag.",
    station: "encoder",
    service: "cleaned",
  }),
  "clean-camera": simple("clean-camera", "Camera and windows", "apart", {
    minutes: 3,
    title: "Wipe camera, mark and sensor windows.",
    text: "Lens wipe for the camera; damp microfibre for the mark; swab with alcohol for the small windows.",
    station: "camera",
    service: "cleaned",
  }),
  "clean-head-fan": simple("clean-head-fan", "Head fan", "apart", {
    minutes: 10,
    title: "Clean the clogged fan.",
    text: "Carriage plate and shroud off, air first for the loose, then a rag on the blades, both sides.",
    surface: "fan",
    station: "motion",
    service: "cleaned",
  }),
  "clear-job-list": simple("clear-job-list", "Controller", "running", {
    minutes: 2,
    title: "Delete one-off jobs.",
    text: "Keep what you cut again; copy it out first.",
    station: "settings",
    service: "adjusted",
  }),
};

/** Which parts carry out a repair that is a plain clean. `@k` is the mirror's number. */
export const cleaningRepairs: Readonly<Record<string, string>> = {
  "clean-lens": "lens",
  "clean-nozzle": "nozzle",
  "clean-mirror@k": "mirror-@k",
  "clean-window": "window",
};
