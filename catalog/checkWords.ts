/** How each check is asked and done, in the trade's words. {part} is a mirror's or station's name. */
export interface CheckWords {
  /** Heading of the card: what to do. */
  readonly title: string;
  readonly how: string;
  readonly caution?: string;
  readonly tools?: string;
  readonly drawing?: string;
  /** Button per outcome, in the check's order. */
  readonly outcomes: readonly string[];
  /** Short form for the reasons, per outcome; {value} where a number was given. */
  readonly short: readonly string[];
  readonly valueShort?: string;
  readonly valueLabel?: string;
}

const GRADES = ["clear", "haze", "film", "spots", "damaged"] as const;
const looks = (what: string) => GRADES.map((g) => `${what} ${g}`);
const INSIDE = "Invisible beam: nobody's eyes or hands inside, lid and panels closed for every pulse, interlock working. Put the power limit back after.";
const OPEN_HEAD = "Unplug first; gloves on. Zinc selenide is toxic if chipped.";
const METER = "Only where the probe fits with every panel and interlock in place; otherwise leave it out, or to a qualified person.";

export const checkWords: Readonly<Record<string, CheckWords>> = {
  "known-cut": { title: "Cut your usual square", how: "Known sheet, usual speed and power, one small square. Poke it once.", caution: "Exhaust on, stay with it.", tools: "known sheet", outcomes: ["drops through", "hangs", "part through", "surface only"], short: ["usual cut drops", "usual cut hangs", "usual cut part through", "usual cut only marks"] },
  ladder: { title: "Cut a speed ladder", how: "Enter it in the log: a row of shapes at one power, each a step faster.", caution: "Exhaust on, stay with it.", tools: "known sheet", outcomes: [], short: [], valueShort: "ladder at {value}", valueLabel: "of best" },
  power: { title: "Watts after {part}", how: "Probe in the beam after {part}, the same setting as for the baseline.", caution: METER, tools: "power probe", outcomes: [], short: [], valueShort: "{value} W after {part}", valueLabel: "watts" },
  "bed-map": { title: "The same cut at four corners and the middle", how: "One small ladder or your usual square in each. Compare them.", caution: "Exhaust on, stay with it.", tools: "scrap sheet", outcomes: ["even", "weaker with distance", "one side", "one corner", "patchy"], short: ["even over the bed", "worse with distance", "worse on one side", "worse in one corner", "patchy"] },
  onset: { title: "How did it start?", how: "From memory and the log.", outcomes: ["all at once", "slowly", "with a new material"], short: ["came at once", "came slowly", "came with new material"] },
  "last-touched": { title: "What was done last before it?", how: "A clean, or something taken out of its seat?", outcomes: ["nothing", "cleaned", "a seat was opened"], short: ["nothing was touched", "cleaned just before", "a seat was opened"] },
  "in-run": { title: "Does it fade in a long run?", how: "Compare the start and the end of a long job.", outcomes: ["steady", "fades, then recovers"], short: ["steady in long runs", "fades in long runs"] },
  "lens-look": { title: "Look at the lens", how: "Lens out, by its edge, torch from behind. Look before you wipe.", caution: OPEN_HEAD, tools: "torch, lens tool, tissue", outcomes: GRADES, short: looks("lens looked") },
  "lens-side": { title: "Which way round is the lens?", how: "Mirror your face in it: the bulging face shows it whole and small, and must look up.", caution: OPEN_HEAD, drawing: "lens-sides", outcomes: ["bulge up, right", "upside down"], short: ["lens right way up", "lens upside down"] },
  "lens-rattle": { title: "Does the lens rattle?", how: "Power off. Tap the head with a fingernail and listen.", outcomes: ["firm", "rattles"], short: ["lens firm", "lens rattles"] },
  "mirror-look": { title: "Look at {part}", how: "Unplugged, torch at an angle. Gantry moved slowly by hand.", caution: "A panel not marked for owners may touch the warranty.", tools: "torch, small mirror", outcomes: GRADES, short: looks("{part} showed") },
  "mirror-seat": { title: "Does {part} sit as in its photo?", how: "Stamp or notch where it was, flush, centred.", outcomes: ["right", "turned or proud"], short: ["{part} sits right", "{part} sits turned"] },
  "window-look": { title: "Look at the exit window", how: "Unplugged, torch on the bed, small inspection mirror. Look only.", caution: "Keep clear of the tube's terminals: charged long after power off.", tools: "torch, small mirror", outcomes: GRADES, short: looks("exit window") },
  "side-window-look": { title: "Look at the side window", how: "Unplugged, torch at an angle.", caution: OPEN_HEAD, tools: "torch", outcomes: GRADES, short: looks("side window") },
  tape: { title: "One mark on {part}", how: "Packing tape on the frame of {part}, off the glass. 15 to 20 % power, one short pulse.", caution: `${INSIDE} Test a scrap of the tape first: some catch fire.`, tools: "packing tape, marker pen", drawing: "tape", outcomes: ["centred", "off centre", "clipped", "misshapen", "no mark"], short: ["mark on {part} centred", "mark on {part} off", "mark on {part} clipped", "mark on {part} misshapen", "no mark on {part}"], valueShort: "mark on {part} {value} mm off", valueLabel: "mm off centre" },
  "tape-travel": { title: "Two marks on {part}, near and far", how: "Packing tape on the frame of {part}, off the glass. 15 to 20 % power, short pulse with the gantry or head near; then far, same tape, pulse again.", caution: `${INSIDE} Test a scrap of the tape first: some catch fire.`, tools: "packing tape, marker pen", drawing: "tape", outcomes: ["together", "apart"], short: ["marks on {part} together", "marks on {part} apart"], valueShort: "marks on {part} {value} mm apart", valueLabel: "mm apart" },
  "nozzle-mark": { title: "Mark under the nozzle", how: "Tape over the nozzle's end, short pulse at 15 to 20 %.", caution: INSIDE, tools: "packing tape", drawing: "tape", outcomes: ["centred", "off centre", "crescent", "double"], short: ["nozzle mark centred", "nozzle mark off", "nozzle mark a crescent", "nozzle mark double"] },
  "nozzle-touch": { title: "Is the nozzle warm after a cut?", how: "Beam off. Hover a finger first, then touch.", caution: "Beam off and lid interlock open before your hand goes in.", outcomes: ["cool", "warm", "hot"], short: ["nozzle cool", "nozzle warm", "nozzle hot"] },
  "nozzle-bore": { title: "Look through the nozzle", how: "Unplugged. Off, against the light; a drill of its size, turned by hand.", outcomes: ["clear", "narrowed", "blocked"], short: ["nozzle clear", "nozzle narrowed", "nozzle blocked"] },
  "air-feel": { title: "Feel the assist air", how: "Air on, beam off, hand under the nozzle.", caution: "Beam off before your hand goes in.", outcomes: ["strong", "weak", "none"], short: ["air strong", "air weak", "no air"] },
  flame: { title: "More flame at the cut than usual?", how: "From your last cuts: flame, soot, char.", outcomes: ["as usual", "more"], short: ["flame as usual", "more flame"] },
  "focus-gauge": { title: "Check the focus with the gauge", how: "Gauge between nozzle and sheet.", drawing: "gauge", tools: "focus gauge", outcomes: ["right", "off"], short: ["gauge fits", "gauge does not fit"], valueShort: "focus {value} mm off", valueLabel: "mm off" },
  "focus-ramp": { title: "Engrave a ramp", how: "A line on a sloping scrap: where is it thinnest, against your setting?", caution: "Exhaust on, stay with it.", tools: "scrap, wedge", outcomes: ["at the setting", "shifted"], short: ["ramp thinnest at setting", "ramp shifted"], valueShort: "ramp {value} mm shifted", valueLabel: "mm shifted" },
  kerf: { title: "Measure the kerf", how: "Feeler or calliper in a fresh cut.", tools: "feeler gauge", outcomes: ["as usual", "wide"], short: ["kerf as usual", "kerf wide"], valueShort: "kerf {value} mm", valueLabel: "mm wide" },
  engraving: { title: "Engrave a small text", how: "Known material and setting.", caution: "Exhaust on, stay with it.", outcomes: ["crisp", "blurred", "faint"], short: ["engraving crisp", "engraving blurred", "engraving faint"] },
  "tube-current": { title: "Read the tube current", how: "The machine's own meter, at your usual power.", caution: "Only by the machine's own meter. Never open the supply.", outcomes: ["as usual", "low", "unsteady"], short: ["current as usual", "current low", "current unsteady"], valueShort: "{value} mA", valueLabel: "mA" },
  "coolant-temp": { title: "Read the coolant's temperature", how: "Chiller display or thermometer, in the middle of a job.", outcomes: [], short: [], valueShort: "coolant {value} °C", valueLabel: "°C" },
  "coolant-flow": { title: "Look at the coolant's flow", how: "At the return, or into a jug for half a minute.", caution: "Never fire without flow.", outcomes: ["good", "low"], short: ["flow good", "flow low"], valueShort: "{value} L/min", valueLabel: "L/min" },
  "water-look": { title: "Look at the coolant", how: "Against a white card. Yellowed hoses do not count.", outcomes: ["clear", "cloudy", "coloured"], short: ["water clear", "water cloudy", "water coloured"] },
  bubbles: { title: "Bubbles in the tube?", how: "Look along the tube with the pump running.", caution: "Beam off, cover on its interlock: look, do not touch.", outcomes: ["none", "yes"], short: ["no bubbles", "bubbles in the tube"] },
  "tube-mark": { title: "Mark right after the tube", how: "Tape on the frame of the first mirror, 15 to 20 % power, one short pulse. Only if it can be reached with panels on.", caution: INSIDE, tools: "packing tape", drawing: "tape", outcomes: ["round", "distorted", "weak"], short: ["tube's mark round", "tube's mark distorted", "tube's mark weak"] },
  "power-limit": { title: "Look at the power limit", how: "On the panel: at its usual place, or still at test level?", outcomes: ["usual", "left low"], short: ["power limit usual", "power limit left low"] },
  settings: { title: "Compare the settings", how: "Speed, power, passes in the file against those that used to cut.", outcomes: ["the usual ones", "changed"], short: ["settings as usual", "settings changed"] },
  "material-swap": { title: "Try another sheet", how: "One known to cut, flat and dry, same setting.", caution: "Exhaust on, stay with it.", tools: "known sheet", outcomes: ["the same", "cuts now"], short: ["other sheet the same", "other sheet cuts"] },
  "bed-level": { title: "Level the bed?", how: "Gauge at four corners and the middle.", tools: "focus gauge", outcomes: ["level", "off"], short: ["bed level", "bed not level"], valueShort: "bed {value} mm off", valueLabel: "mm off" },
  smoke: { title: "Where does the smoke go?", how: "Watch a cut through the lid.", outcomes: ["straight away", "swirls", "lingers"], short: ["smoke clears", "smoke swirls", "smoke lingers"] },
  "duct-speed": { title: "Measure the air in the duct", how: "Vane in the middle of the duct.", tools: "air speed meter", outcomes: [], short: [], valueShort: "{value} m/s in the duct", valueLabel: "m/s" },
  "prefilter-out": { title: "Take the pre-filter out for a moment", how: "Does the smoke leave better without it?", outcomes: ["the same", "better"], short: ["same without pre-filter", "better without pre-filter"] },
  "fan-spin": { title: "Spin the fan by hand", how: "Unplugged. It should run on freely.", caution: "Unplugged: blades and duct edges are sharp.", outcomes: ["free", "drags", "stuck"], short: ["fan free", "fan drags", "fan stuck"] },
  "fan-arrow": { title: "Which way does the fan's arrow point?", how: "Away from the machine is right.", outcomes: ["away, right", "towards it"], short: ["fan arrow right", "fan reversed"] },
  "raster-edge": { title: "Engrave a block, look at its edges", how: "A small filled square at your usual speed.", caution: "Exhaust on, stay with it.", outcomes: ["straight", "wavy", "stepped"], short: ["edges straight", "edges wavy", "edges stepped"] },
  "rail-touch": { title: "Feel the rails", how: "Unplugged. A finger along, to the ends of travel.", outcomes: ["smooth", "gritty"], short: ["rails smooth", "rails gritty"] },
  "bearing-push": { title: "Push the head by hand", how: "Unplugged, slowly, over the whole travel.", outcomes: ["free", "drags", "skips"], short: ["head runs free", "head drags", "head skips"] },
  belt: { title: "Press the belts", how: "Unplugged. Both, in the middle of their run.", outcomes: ["taut", "slack"], short: ["belts taut", "belt slack"] },
  "strip-look": { title: "Look at the encoder strip", how: "Unplugged, torch, both faces. Dust on a fingertip means dust on the strip.", outcomes: ["clean", "dirty"], short: ["strip clean", "strip dirty"] },
  homing: { title: "Does homing hunt?", how: "Watch a start.", outcomes: ["fine", "hunts"], short: ["homing fine", "homing hunts"] },
  "camera-picture": { title: "Look at the camera picture", how: "Lid closed, light on.", outcomes: ["clear", "cloudy"], short: ["camera clear", "camera cloudy"] },
  "height-sense": { title: "Measure a known sheet", how: "Does the machine read its thickness right?", outcomes: ["right", "wrong"], short: ["height read right", "height read wrong"] },
  pauses: { title: "Does it stop to cool down?", how: "In long jobs.", outcomes: ["no", "it does"], short: ["no pauses", "pauses to cool"] },
  "job-list": { title: "Look at the stored jobs", how: "On the panel: how many?", outcomes: ["room left", "full"], short: ["job list has room", "job list full"] },
};
