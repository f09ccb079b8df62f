/** Repairs a trace can end in that are not a plain clean. `@k` is the number in a mirror's id. */
import type { ProcedureSpec, StepSpec } from "#core/rounds";
import type { RepairId } from "../subjects";
import { lens } from "./optics";

const QUALIFIED = "This one is not for owners: the maker's manual, local codes and a qualified person come first.";
const ZNSE = "Gloves on. Zinc selenide is toxic if chipped or swallowed; edges only.";
const BEAM = "Invisible beam: lid closed for every pulse, panels on, interlock working, goggles rated for 10.6 µm, nobody's hands inside.";

/** What others do is done when they have done it, not when they were asked: till then nothing is new, and what is broken is broken. */
const doneByOthers = (done: string): NonNullable<StepSpec["seen"]> => [
  { id: "done", label: done },
  {
    id: "asked",
    label: "asked, nothing changed yet",
    served: false,
    leads:
      "Nothing is mended yet: let this round wait, or end it without a proof. What they measured goes into the case as an answer: the current, the tube's mark, watts.",
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

/** A repair of the lens is the way out and in of its clean, with its own work between. */
const lensRepair = (id: RepairId, work?: Omit<StepSpec, "id">): ProcedureSpec => ({
  ...lens,
  id,
  steps: [
    ...lens.steps.filter((s) => s.service === "seat-opened"),
    ...(work ? [{ ...work, id: "do" }] : []),
    ...lens.steps.filter((s) => s.last),
  ],
});

export const repairSpecs: readonly ProcedureSpec[] = [
  one("tube-supplier", "Tube", "running", "tube", {
    kind: "choice",
    minutes: 45,
    title: "Ask the tube's supplier.",
    text: "Give them the hours, the current at your usual power, the watts and this case. A tube swap is for someone trained; note the hours when it is done, and cut a new baseline ladder.",
    caution: QUALIFIED,
    service: "replaced",
    seen: doneByOthers("a new tube is in"),
  }),
  one("supply-qualified", "Tube supply", "running", "supply", {
    kind: "choice",
    minutes: 60,
    title: "Have the supply looked at.",
    text: "Low current at full setting is the electrical side. Call a qualified person, and give them the current you read from the machine's own meter.",
    caution: `High voltage kills. ${QUALIFIED}`,
    service: "adjusted",
    seen: doneByOthers("they have put it right"),
  }),
  one("bleed-coolant", "Coolant", "running", "coolant", {
    minutes: 8,
    drawing: "bubbles",
    title: "Tilt the bubbles out.",
    text: "Pump running, beam off. Tilt the machine or the tube's outlet a little until the last bubble has left; top the bucket up and put its lid on.",
    caution: "Water near mains: dry hands, nothing firing.",
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
    title: "Let the coolant come down to 20 °C.",
    text: "Stop firing. Clean the chiller's grille, move it out of the sun, or change part of the bucket for cooler water.",
    caution: "Above 30 °C do not fire. Below the room's dew point the tube sweats: not too cold either.",
    service: "adjusted",
  }),
  one("coolant-flow", "Coolant", "cooling", "coolant", {
    minutes: 8,
    title: "Find what holds the water back.",
    text: "Follow the hose from the pump: kinks, a pinched bend, a slimy strainer. Clear it and look at the flow at the return.",
    caution: "Pump unplugged before a hose comes off. Wipe spills before anything is plugged in.",
    service: "adjusted",
  }),
  one("replace-side-window", "Side window", "optics", "side-window", {
    minutes: 8,
    title: "Fit the spare window.",
    text: "Old one out by its edge onto tissue, seat wiped, new one in by its edge. Both faces clean before it goes in.",
    caution: ZNSE,
    service: "replaced",
  }),
  one(
    "replace-mirror@k",
    "{part}",
    "optics",
    "@station",
    {
      minutes: 12,
      drawing: "notch",
      title: "Fit a spare for {the part}.",
      text: "Photo of the way round first. Old one out, seat wiped clean of crumbs, new one in by its edge, flush and centred. {way}",
      caution: "Coated side outward, fingers off it.",
      service: "replaced",
    },
    { opensSeat: true },
  ),
  one(
    "seat-mirror@k",
    "{part}",
    "optics",
    "@station",
    {
      minutes: 6,
      drawing: "notch",
      title: "Seat {the part} again.",
      text: "Lift it, wipe the seat, turn it to its stamp or notch. In a magnet seat wiggle up and down, left and right, until it sits flush and centred. {way}",
      caution: "Edges only: no pressure on the coating.",
      service: "seat-opened",
    },
    { opensSeat: true },
  ),
  {
    id: "aim@k" satisfies RepairId,
    name: "Aim of {part}",
    area: "running",
    station: "@station",
    lowPower: true,
    steps: [
      {
        id: "tape",
        byAim: true,
        minutes: 2,
        title: "Tape on the frame of the next mirror after {the part}.",
        text: "Packing tape or thermal paper over its frame, off the glass. Test a scrap of the tape with one pulse first: some catch fire. Panels back on. Turn the power down to 15 to 20 %.",
        caution: BEAM,
        tools: ["marker pen", "screw key"],
        supplies: ["packing tape"],
      },
      {
        id: "marks",
        byAim: true,
        kind: "choice",
        minutes: 3,
        drawing: "tape",
        title: "One mark near, one far: do they meet?",
        text: "Lid closed, short pulse with gantry or head near; then far, same tape, one more. They must coincide: then the beam runs parallel. Where the common mark sits is a matter of height, not of these screws.",
        caution: BEAM,
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
        title: "One screw of {the part}, a quarter turn, then look.",
        text: "The mirror before the marks is the one to turn. One screw at a time, a quarter, then eighths; pulse far again after each. Nobody remembers which screw moves the mark which way: write it down as a note here, it is the same next year. Runs away: back to the last good state.",
        caution: `${BEAM} Unplugged hands: no pulse while anybody holds a screw.`,
        drawing: "tape",
      },
      {
        id: "again",
        kind: "choice",
        minutes: 3,
        asked: [{ step: "marks", said: ["apart"] }],
        title: "Near and far once more, on fresh tape.",
        text: "Do not chase a mark too far: a good state is better than a perfect one that ran away.",
        caution: BEAM,
        drawing: "tape",
        service: "aimed",
        seen: [
          { id: "meet", label: "they meet now" },
          { id: "better", label: "nearer, not yet" },
          {
            id: "lost",
            label: "it ran away",
            served: false,
            leads: "Back to the last good state, and ask somebody trained before any other screw is touched.",
          },
        ],
      },
      {
        id: "last",
        minutes: 4,
        asked: [{ step: "again", said: ["better"] }],
        title: "Eighths now, one screw at a time, until they meet.",
        text: "Then the corners: head near and far at both ends of the gantry. All marks on one spot.",
        caution: BEAM,
        drawing: "tape",
      },
      {
        id: "off",
        minutes: 1,
        title: "Tape off, then the torch on the glass behind it.",
        text: "Tape smoke lands on optics. Hazed: one fresh swab, as in its round.",
        tools: ["torch"],
      },
    ],
  },
  lensRepair("replace-lens", {
    minutes: 2,
    title: "The spare lens: look, then it goes in.",
    text: "Old one by its edge into a sealed bag. Look at the spare under the torch: clear, no chip. Note its source and grade: unbranded ones vary, so a ladder before and after: this round's becomes the new baseline.",
    caution: "A cracked optic is never blown at, wiped or vacuumed: mask, pick up damp, sealed bag, hazardous waste.",
    service: "replaced",
  }),
  lensRepair("turn-lens"),
  lensRepair("seat-lens"),
  one("set-focus", "Focus", "running", "focus", {
    minutes: 2,
    drawing: "gauge",
    title: "Set the focus.",
    text: "With the gauge, or the machine's own autofocus, on the sheet you cut, not on the bed.",
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
      text: "Tape over the nozzle's end, short pulse at 15 to 20 %, lid closed. Shift the lens tube or nozzle until the hole sits in the ring.",
      caution: `${BEAM} The nozzle may be hot: beam off, hover first.`,
      supplies: ["packing tape"],
      service: "adjusted",
    },
    { lowPower: true },
  ),
  one("level-bed", "Bed", "bed", "bed", {
    minutes: 8,
    title: "Level the bed.",
    text: "Crumbs out from under the honeycomb. Gauge at four corners and the middle, shim or screw until all agree.",
    tools: ["focus gauge"],
    service: "adjusted",
  }),
  one("other-sheet", "Material", "running", "material", {
    minutes: 2,
    title: "Take another sheet.",
    text: "One known to cut, flat and dry. Put the doubtful one aside and note its batch.",
    service: "replaced",
  }),
  one("turn-fan", "Exhaust", "air", "exhaust", {
    minutes: 12,
    drawing: "fan-arrow",
    title: "Turn the fan round.",
    text: "The arrow points away from the machine. Both clamps on both flanges, tug, check that it draws once there is power.",
    caution: "Fan unplugged. Sharp duct edges; the rotor can drop out.",
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
      title: "Take up the slack belt.",
      text: "By its tensioner only, as the manual says; never pry a belt off its wheel. No lubricant.",
      caution: "Power off; fingers clear of the wheels.",
      tools: ["screw key"],
      service: "adjusted",
    },
    { provenBy: "block" },
  ),
];
