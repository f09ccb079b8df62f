/** Repairs a trace can end in that are not a plain clean. `@k` is the number in a mirror's id. */
import type { ProcedureSpec, StepSpec } from "#core/rounds";
import type { RepairId } from "../subjects";
import { lens, mirrorInHand } from "./optics";

const QUALIFIED = "Do not do this yourself: the maker's manual, local codes and a qualified person come first.";
const ZNSE = "Wear gloves and hold it by the edge: zinc selenide is toxic if it is chipped or swallowed.";
const BEAM =
  "The beam is invisible. Lid shut for every pulse, panels on, interlock working, goggles rated for 10.6 µm, nobody's hands inside.";
const GOGGLES = ["goggles rated for 10.6 µm"] as const;
const PULSE = { fires: true, limit: "low" } as const;

/** What others do is done when they have done it, not when they were asked: till then nothing is new, and what is broken is broken. */
const doneByOthers = (done: string): NonNullable<StepSpec["seen"]> => [
  { id: "done", label: done },
  {
    id: "asked",
    label: "asked, nothing changed yet",
    served: false,
    stops: "round",
    leads:
      "Nothing is repaired yet: keep this round open, or end it without a final test. Enter what they measured as an answer of the case: the current, the tube's mark, watts.",
  },
];

/** A spare is at hand, or it is not: then what is broken stays, and nothing is fired. */
const spareOrNone = (fitted: string, none: { readonly leavesOut?: string }): NonNullable<StepSpec["seen"]> => [
  { id: "fitted", label: fitted },
  {
    id: "none",
    label: "no spare here",
    served: false,
    stops: "round",
    ...none,
    leads: "Leave the machine unplugged. This round ends here. Order the part; Today then offers the round that fits it.",
  },
];

const one = (
  id: RepairId,
  name: string,
  area: ProcedureSpec["area"],
  station: string,
  step: Omit<StepSpec, "id">,
  more: Partial<ProcedureSpec> = {},
) => ({ id, name, area, station, ...more, steps: [{ ...step, id: "do" }] }) satisfies ProcedureSpec;

/** Who puts the lens right is not told to put it back as it was. */
const SAME_SEAT = "Use the same seat as before.";
const OTHER_SEAT = "If the holder has several seats, use the one at which the gauge and a focus ramp agree.";

/**
 * A repair of the lens is the way out and in of its clean, with its own work between: a lens that is out is looked at, and cleaned if it
 * wants it. One that is replaced is not.
 */
const lensRepair = (id: RepairId, work?: Omit<StepSpec, "id">): ProcedureSpec => ({
  ...lens,
  id,
  steps: [
    ...lens.steps.filter((s) => (id === "replace-lens" ? s.service === "seat-opened" : !s.last)),
    ...(work ? [{ ...work, id: "do" }] : []),
    ...lens.steps.filter((s) => s.last).map((s) => (id === "seat-lens" ? { ...s, text: s.text.replace(SAME_SEAT, OTHER_SEAT) } : s)),
  ],
});

export const repairSpecs: readonly ProcedureSpec[] = [
  one(
    "tube-supplier",
    "Tube",
    "running",
    "tube",
    {
      kind: "choice",
      minutes: 45,
      title: "Ask the tube's supplier.",
      text: "Give them the hours, the current at your usual power, the watts and this case. Only someone trained swaps a tube. Note the hours when it is done, and cut a new baseline ladder.",
      caution: QUALIFIED,
      service: "replaced",
      seen: doneByOthers("a new tube is in"),
    },
    { power: "any" },
  ),
  one(
    "supply-qualified",
    "Power supply",
    "running",
    "supply",
    {
      kind: "choice",
      minutes: 60,
      title: "Have the power supply inspected.",
      text: "A low current at full setting points to the electrical side. Call a qualified person, and give them the current you read from the machine's own meter.",
      caution: `High voltage kills. ${QUALIFIED}`,
      service: "adjusted",
      seen: doneByOthers("they have put it right"),
    },
    { power: "any" },
  ),
  one("bleed-coolant", "Coolant", "running", "coolant", {
    minutes: 8,
    drawing: "bubbles",
    title: "Tilt the bubbles out.",
    text: "The pump runs and the beam is off. Tilt the machine or the tube's outlet a little until the last bubble has left. Top up the bucket and put its lid on.",
    caution: "Water is near mains. Dry your hands, and fire nothing.",
    service: "adjusted",
  }),
  one("power-back", "Settings", "running", "settings", {
    minutes: 1,
    title: "Set the power limit where it was.",
    text: "Look it up in your log, not in memory.",
    service: "adjusted",
  }),
  one("settings-right", "Settings", "running", "settings", {
    minutes: 2,
    title: "Put speed, power and passes back.",
    text: "Compare the file with the setting that used to work, line by line.",
    service: "adjusted",
  }),
  one("cool-down", "Coolant", "running", "coolant", {
    minutes: 20,
    title: "Let the coolant come down to 20 °C (68 °F).",
    text: "Stop firing. Clean the chiller's grille, move it out of the sun, or replace part of the bucket with cooler water.",
    caution: "Do not fire above 30 °C (86 °F). Below the room's dew point water condenses on the tube: do not cool it that far.",
    service: "adjusted",
  }),
  one("coolant-flow", "Coolant", "cooling", "coolant", {
    minutes: 8,
    title: "Find what holds the water back.",
    text: "Follow the hose from the pump: look for kinks, a pinched bend, a slimy strainer. Clear it. The flow is looked at once the power is back.",
    caution: "Unplug the pump before you take a hose off. Wipe up spills before you plug anything in.",
    service: "adjusted",
  }),
  one("replace-side-window", "Side window", "optics", "side-window", {
    kind: "choice",
    minutes: 8,
    title: "Fit the spare window.",
    text: "Take the old one out by its edge onto tissue and wipe the seat. Clean both faces of the new one, then put it in by its edge. If its inner face is behind a mirror, take that mirror out first, the way its own round shows.",
    caution: ZNSE,
    supplies: ["spare window"],
    service: "replaced",
    seen: spareOrNone("the new one is in", {}),
  }),
  one(
    "replace-mirror@k",
    "{part}",
    "optics",
    "@station",
    {
      kind: "choice",
      minutes: 12,
      drawing: "notch",
      title: "Fit a spare for {the part}.",
      text: "Take a photo of which way round it is first. Take the old one out and wipe crumbs from the seat. Put the new one in by its edge, flush and centred. {way}",
      caution: "The coated side faces the beam. Keep your fingers off it.",
      supplies: ["spare mirror"],
      service: "replaced",
      seen: spareOrNone("the new one is in", {}),
    },
    { opensSeat: true },
  ),
  {
    id: "seat-mirror@k" satisfies RepairId,
    name: "{part}",
    area: "optics",
    station: "@station",
    opensSeat: true,
    steps: [
      ...mirrorInHand,
      {
        id: "do",
        minutes: 6,
        drawing: "notch",
        title: "Seat {the part} again.",
        text: "Wipe the seat, and turn it to its stamp or notch. In a magnet seat move it up and down, left and right, until it sits flush and centred. {way}",
        caution: "Hold it by the edge, and do not press on the coating.",
        service: "seat-opened",
      },
    ],
  },
  {
    id: "aim@k" satisfies RepairId,
    name: "Alignment of {part}",
    area: "running",
    station: "@station",
    lowPower: true,
    steps: [
      {
        id: "tape",
        byAim: true,
        minutes: 2,
        title: "Put tape on the frame of the next mirror after {the part}.",
        text: "Put packing tape or thermal paper over its frame, off the glass. Try a scrap of the tape with one pulse first: some tapes catch fire. Put the panels back on. Turn the power down to 15 to 20 %.",
        caution: BEAM,
        tools: ["marker pen", "screw key"],
        supplies: ["packing tape"],
        gear: GOGGLES,
        leaves: { limit: "low" },
      },
      {
        id: "marks",
        byAim: true,
        kind: "choice",
        minutes: 3,
        drawing: "tape",
        title: "Make one mark near and one far: do they meet?",
        text: "Shut the lid and give a short pulse with the gantry or head near, then one with it far, on the same tape. The two must meet: then the beam runs parallel. Where they meet is a matter of height, not of these screws.",
        caution: BEAM,
        needs: PULSE,
        seen: [
          { id: "meet", label: "they meet" },
          { id: "apart", label: "they lie apart" },
        ],
      },
      {
        id: "turn",
        byAim: true,
        minutes: 4,
        asked: [{ step: "marks", said: ["apart"] }],
        title: "Turn one screw of {the part} a quarter turn, then look.",
        text: "Turn the mirror before the marks. Take one screw at a time, a quarter turn, then eighths, and pulse far again after each. Nobody remembers which screw moves the mark which way: write it down as a note here, it is the same next year. If the mark runs away, go back to the last good state.",
        caution: `${BEAM} Never pulse while anyone holds a screw.`,
        drawing: "tape",
        needs: PULSE,
      },
      {
        id: "again",
        kind: "choice",
        minutes: 3,
        asked: [{ step: "marks", said: ["apart"] }],
        title: "Mark near and far once more, on fresh tape.",
        text: "Do not chase a mark too far: a good state is better than a perfect one that ran away.",
        caution: BEAM,
        drawing: "tape",
        needs: PULSE,
        service: "aimed",
        seen: [
          { id: "meet", label: "they meet now" },
          { id: "better", label: "nearer, not yet" },
          {
            id: "lost",
            label: "it ran away",
            served: false,
            leads: "Go back to the last good state, and ask somebody trained before you touch any other screw.",
          },
        ],
      },
      {
        id: "last",
        minutes: 4,
        asked: [{ step: "again", said: ["better"] }],
        title: "Now turn eighths, one screw at a time, until they meet.",
        text: "Then do the corners: head near and far at both ends of the gantry. All marks must land on one spot.",
        caution: `${BEAM} Never pulse while anyone holds a screw.`,
        drawing: "tape",
        needs: PULSE,
      },
      {
        id: "off",
        minutes: 1,
        title: "Take the tape off and inspect the glass behind it.",
        text: "Tape smoke lands on optics. If the glass is hazed, use one fresh swab, as in its round.",
        tools: ["torch"],
      },
    ],
  },
  lensRepair("replace-lens", {
    kind: "choice",
    minutes: 2,
    title: "Inspect the spare lens. Then it goes in.",
    text: "Put the old one by its edge into a sealed bag. Inspect the spare with the torch: clear, no chip. Note its source and grade: unbranded ones vary, so cut a ladder before and after. The one at the end of this round becomes your new baseline.",
    caution:
      "A cracked optic is never blown at, wiped or vacuumed. Put a mask on, pick it up with a damp tissue, put it into a sealed bag and treat it as hazardous waste.",
    supplies: ["spare lens"],
    needs: { out: ["lens"] },
    service: "replaced",
    seen: spareOrNone("the spare goes in", { leavesOut: "lens" }),
  }),
  lensRepair("turn-lens"),
  lensRepair("seat-lens"),
  one("set-focus", "Focus", "running", "focus", {
    minutes: 2,
    drawing: "gauge",
    title: "Set the focus.",
    text: "Use the gauge, or the machine's own autofocus, on the sheet you cut, not on the bed.",
    service: "adjusted",
  }),
  one(
    "centre-nozzle",
    "Nozzle",
    "running",
    "nozzle",
    {
      minutes: 10,
      drawing: "tape",
      title: "Centre the beam in the nozzle.",
      text: "Put tape over the nozzle's end, turn the power down to 15 to 20 %, shut the lid and give a short pulse. Shift the lens tube or the nozzle until the hole sits in the ring.",
      caution: `${BEAM} Beam off before you reach in. The nozzle may be hot: hover a finger near it before you touch it.`,
      supplies: ["packing tape"],
      gear: GOGGLES,
      needs: { fires: true },
      leaves: { limit: "low" },
      service: "adjusted",
    },
    { lowPower: true },
  ),
  one("level-bed", "Bed", "bed", "bed", {
    minutes: 8,
    title: "Level the bed.",
    text: "Take crumbs out from under the honeycomb. Measure with the gauge at four corners and the middle, and shim or screw until all agree.",
    tools: ["focus gauge"],
    service: "adjusted",
  }),
  one(
    "other-sheet",
    "Material",
    "running",
    "material",
    {
      minutes: 2,
      title: "Take another sheet.",
      text: "Take one that is known to cut, flat and dry. Put the doubtful one aside and note its batch.",
      service: "replaced",
    },
    { power: "any" },
  ),
  one("turn-fan", "Exhaust", "air", "exhaust", {
    minutes: 12,
    drawing: "fan-arrow",
    title: "Turn the fan round.",
    text: "The arrow must point away from the machine. Put both clamps on both flanges and tug it. Check that it draws once there is power.",
    caution: "Unplug the fan. The duct's edges are sharp, and the rotor can drop out.",
    tools: ["screwdriver"],
    service: "adjusted",
  }),
  one(
    "tension-belt",
    "Belts",
    "motion",
    "motion",
    {
      minutes: 10,
      title: "Tighten the slack belt.",
      text: "Use its tensioner only, as the manual says. Never pry a belt off its wheel. Use no lubricant.",
      caution: "Power off, and fingers clear of the wheels.",
      tools: ["screw key"],
      service: "adjusted",
    },
    { provenBy: "block" },
  ),
];
