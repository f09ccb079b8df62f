/**
 * Every fault a weak, rough or stopped cut can come from, and how each shows in each check. Rates are authored: fouling of lens
 * and head first, then nozzle, back mirrors, focus and settings, aim, air, window, tube, supply. Losses in ln power.
 */
import type { FaultTemplate } from "#core/trace";

/** P(outcome) caused by the light and by the heavy form, in the order of the check's outcomes. */
const shows = (light: readonly number[], heavy: readonly number[]) => ({ kind: "outcomes", light, heavy }) as const;
/** Shift of a numeric reading with its spread. */
const shifts = (light: number, heavy: number, sdLight: number, sdHeavy: number) => ({ kind: "shift", mean: [light, heavy], sd: [sdLight, sdHeavy] }) as const;

/** onset: sudden, gradual, new material; last-touched: nothing, cleaned, seat opened; bed-map: even, falls, side, corner, patchy. */
const BUILDS_UP = {
  onset: shows([0.1, 0.85, 0.05], [0.2, 0.76, 0.04]),
  "last-touched": shows([0.82, 0.11, 0.07], [0.82, 0.11, 0.07]),
  "bed-map": shows([0.84, 0.02, 0.03, 0.03, 0.08], [0.88, 0.02, 0.03, 0.02, 0.05]),
};
const BREAKS = {
  onset: shows([0.55, 0.42, 0.03], [0.8, 0.17, 0.03]),
  "last-touched": shows([0.55, 0.3, 0.15], [0.5, 0.33, 0.17]),
  "bed-map": shows([0.85, 0.02, 0.04, 0.04, 0.05], [0.87, 0.02, 0.03, 0.03, 0.05]),
};
const PUT_BACK_WRONG = {
  onset: shows([0.9, 0.06, 0.04], [0.94, 0.03, 0.03]),
  "last-touched": shows([0.06, 0.22, 0.72], [0.04, 0.18, 0.78]),
  "bed-map": shows([0.87, 0.02, 0.04, 0.04, 0.03], [0.89, 0.02, 0.03, 0.03, 0.03]),
};
const AGES = {
  onset: shows([0.04, 0.93, 0.03], [0.08, 0.89, 0.03]),
  "last-touched": shows([0.62, 0.3, 0.08], [0.62, 0.3, 0.08]),
  "bed-map": shows([0.88, 0.03, 0.03, 0.02, 0.04], [0.88, 0.03, 0.03, 0.02, 0.04]),
};
const DRIFTS = {
  onset: shows([0.6, 0.36, 0.04], [0.8, 0.16, 0.04]),
  "last-touched": shows([0.5, 0.2, 0.3], [0.4, 0.2, 0.4]),
};
const HEAT = { "in-run": shows([0.75, 0.25], [0.5, 0.5]) };
const DIRTY_LOOK = shows([0.06, 0.36, 0.46, 0.11, 0.01], [0.02, 0.08, 0.5, 0.37, 0.03]);
const BROKEN_LOOK = shows([0.1, 0.1, 0.12, 0.28, 0.4], [0.08, 0.04, 0.06, 0.22, 0.6]);
const MARK_OFF = [shows([0.35, 0.56, 0.06, 0.03, 0], [0.06, 0.56, 0.33, 0.04, 0.01]), shifts(2, 4.5, 0.9, 1.6)];
/**
 * A tilted beam wanders in step with the way it has to go: over both axes when gantry and head legs follow, over one axis when
 * only the head leg does, and not at all after the last moving leg.
 */
const OVER_THE_BED = [
  shows([0.86, 0.03, 0.04, 0.04, 0.03], [0.86, 0.03, 0.04, 0.04, 0.03]),
  shows([0.26, 0.2, 0.42, 0.09, 0.03], [0.1, 0.24, 0.53, 0.1, 0.03]),
  shows([0.2, 0.56, 0.1, 0.11, 0.03], [0.08, 0.68, 0.1, 0.11, 0.03]),
] as const;
const POWER = { power: 1, "cut-quality": 0.4 } as const;
const TUBE_LOSS = { lossAt: "tube", loss: [0.06, 0.22], lossSd: [0.03, 0.09] } as const;

export const faultTemplates: readonly FaultTemplate[] = [
  {
    // A worn tube may have lost anything up to half, so no loss at the tube, however large, speaks against it.
    id: "tube-aged", station: "tube", ...TUBE_LOSS, loss: [0.06, 0.32], lossSd: [0.03, 0.17], baseRate: 0.25, usage: "tube-hours", heavyShare: 0.4, repair: "tube-supplier",
    reason: "At its rated hours about one tube in four is worn enough to notice; far below them hardly any is.",
    symptoms: POWER,
    effects: { ...AGES, "tube-mark": shows([0.75, 0.08, 0.17], [0.35, 0.15, 0.5]), "tube-current": shows([0.95, 0.03, 0.02], [0.88, 0.06, 0.06]), tape: shows([0.9, 0.05, 0.02, 0.03, 0], [0.9, 0.05, 0.02, 0.03, 0]) },
  },
  {
    id: "tube-mode", station: "tube", ...TUBE_LOSS, cutGain: 1.5, baseRate: 0.01, repair: "tube-supplier",
    reason: "The tube's own mirrors shift rarely, but a blow or a frozen winter can do it.",
    symptoms: { power: 1, "cut-quality": 0.8 },
    effects: { ...BREAKS, "tube-mark": shows([0.25, 0.72, 0.03], [0.06, 0.88, 0.06]), kerf: [shows([0.55, 0.45], [0.25, 0.75]), shifts(0.05, 0.12, 0.03, 0.05)], engraving: shows([0.5, 0.42, 0.08], [0.2, 0.6, 0.2]), "tape@after": shows([0.35, 0.08, 0.04, 0.53, 0], [0.12, 0.06, 0.05, 0.75, 0.02]) },
  },
  {
    id: "tube-air", station: "coolant", ...TUBE_LOSS, baseRate: 0.015, repair: "bleed-coolant",
    reason: "A bubble stays in the tube after a refill or a tilt.",
    symptoms: { power: 0.8, cooling: 1 },
    effects: { ...BREAKS, ...HEAT, bubbles: shows([0.12, 0.88], [0.05, 0.95]), "coolant-flow": [shows([0.8, 0.2], [0.6, 0.4]), shifts(-0.1, -0.3, 0.1, 0.2)], "coolant-temp": shifts(1, 3, 1, 2), pauses: shows([0.9, 0.1], [0.75, 0.25]) },
  },
  {
    id: "supply-weak", station: "supply", ...TUBE_LOSS, baseRate: 0.012, repair: "supply-qualified",
    reason: "Supplies fail seldom and mostly at once; only a qualified person opens one.",
    symptoms: POWER,
    effects: { ...BREAKS, "tube-current": [shows([0.2, 0.55, 0.25], [0.06, 0.62, 0.32]), shifts(-1.6, -5, 0.8, 2)], "tube-mark": shows([0.7, 0.05, 0.25], [0.35, 0.08, 0.57]), "in-run": shows([0.8, 0.2], [0.65, 0.35]) },
  },
  {
    id: "power-left-low", station: "settings", lossAt: "tube", loss: [0.06, 0.32], lossSd: [0.03, 0.17], heavyShare: 0.8, baseRate: 0.02, repair: "power-back",
    reason: "After an aim check the power limit is forgotten at test level.",
    symptoms: POWER,
    effects: { ...PUT_BACK_WRONG, "power-limit": shows([0.04, 0.96], [0.02, 0.98]), "tube-current": [shows([0.3, 0.68, 0.02], [0.08, 0.9, 0.02]), shifts(-2.5, -7, 1.2, 2.5)], "tube-mark": shows([0.7, 0.02, 0.28], [0.3, 0.04, 0.66]) },
  },
  {
    id: "settings-wrong", station: "settings", loss: [0.1, 0.35], lossSd: [0.05, 0.12], baseRate: 0.04, repair: "settings-right",
    reason: "A speed, a power or the number of passes was changed in the file or on the panel.",
    symptoms: POWER,
    effects: { onset: shows([0.78, 0.04, 0.18], [0.8, 0.03, 0.17]), "last-touched": shows([0.7, 0.2, 0.1], [0.7, 0.2, 0.1]), "bed-map": shows([0.94, 0.02, 0.02, 0.01, 0.01], [0.94, 0.02, 0.02, 0.01, 0.01]), settings: shows([0.07, 0.93], [0.03, 0.97]) },
  },
  {
    id: "coolant-warm", station: "coolant", ...TUBE_LOSS, loss: [0.05, 0.12], lossSd: [0.02, 0.04], baseRate: 0.035, repair: "cool-down",
    reason: "Warm rooms and long runs: the tube loses about 0.7 % for each degree above 20.",
    symptoms: { power: 0.8, cooling: 1 },
    effects: { ...HEAT, onset: shows([0.35, 0.6, 0.05], [0.45, 0.5, 0.05]), "in-run": shows([0.35, 0.65], [0.12, 0.88]), "coolant-temp": shifts(5, 10, 1.5, 3), pauses: shows([0.85, 0.15], [0.5, 0.5]), "bed-map": shows([0.75, 0.06, 0.04, 0.05, 0.1], [0.7, 0.08, 0.05, 0.05, 0.12]) },
  },
  {
    id: "coolant-flow", station: "coolant", ...TUBE_LOSS, loss: [0.05, 0.15], lossSd: [0.02, 0.06], baseRate: 0.02, repair: "coolant-flow",
    reason: "A pinched hose or a tired pump; the water warms inside the tube first.",
    symptoms: { power: 0.8, cooling: 1 },
    effects: { ...BREAKS, "in-run": shows([0.4, 0.6], [0.15, 0.85]), "coolant-flow": [shows([0.2, 0.8], [0.05, 0.95]), shifts(-0.5, -1.1, 0.2, 0.4)], "coolant-temp": shifts(2, 5, 1.5, 2.5), pauses: shows([0.8, 0.2], [0.4, 0.6]) },
  },
  {
    id: "coolant-foul", station: "coolant", ...TUBE_LOSS, loss: [0.03, 0.08], lossSd: [0.015, 0.03], baseRate: 0.025, usage: "coolant-age", repair: "change-coolant",
    reason: "Algae and minerals grow with the months and coat the tube's jacket.",
    symptoms: { power: 0.4, cooling: 1 },
    effects: { ...AGES, "water-look": shows([0.2, 0.5, 0.3], [0.06, 0.4, 0.54]), "coolant-flow": [shows([0.75, 0.25], [0.5, 0.5]), shifts(-0.1, -0.4, 0.1, 0.2)], "in-run": shows([0.8, 0.2], [0.6, 0.4]) },
  },
  {
    id: "fins-dirty", station: "fins", ...TUBE_LOSS, loss: [0.04, 0.12], lossSd: [0.02, 0.05], baseRate: 0.05, usage: "dose", repair: "clean-fins",
    reason: "Dust between the fins keeps an air-cooled tube hot.",
    symptoms: { power: 0.8, cooling: 1 },
    effects: { ...BUILDS_UP, "in-run": shows([0.35, 0.65], [0.15, 0.85]), pauses: shows([0.7, 0.3], [0.35, 0.65]) },
  },
  {
    id: "window-dirty", station: "window", lossAt: "window", baseRate: 0.03, usage: "dose", repair: "clean-window",
    reason: "Far from the smoke, so it fouls slowly.",
    symptoms: POWER,
    effects: { ...BUILDS_UP, "window-look": DIRTY_LOOK, "tube-mark": shows([0.82, 0.06, 0.12], [0.6, 0.14, 0.26]) },
  },
  {
    id: "window-damaged", station: "window", lossAt: "window", baseRate: 0.006, heavyShare: 0.6, repair: "tube-supplier",
    reason: "Dirt burnt into the exit window; it ends the tube.",
    symptoms: POWER,
    effects: { ...BREAKS, ...HEAT, "window-look": BROKEN_LOOK, "tube-mark": shows([0.5, 0.35, 0.15], [0.2, 0.5, 0.3]) },
  },
  {
    id: "side-window-dirty", station: "side-window", lossAt: "side-window", baseRate: 0.06, usage: "dose", repair: "clean-side-window",
    reason: "The head's own window sits in the smoke.",
    symptoms: POWER,
    effects: { ...BUILDS_UP, "side-window-look": DIRTY_LOOK },
  },
  {
    id: "side-window-damaged", station: "side-window", lossAt: "side-window", baseRate: 0.01, heavyShare: 0.5, repair: "replace-side-window",
    reason: "Burnt-in dirt cracks small windows.",
    symptoms: POWER,
    effects: { ...BREAKS, ...HEAT, "side-window-look": BROKEN_LOOK },
  },
  {
    id: "mirror-dirty@k", station: "mirror@k", lossAt: "mirror@k", baseRate: { head: 0.14, back: 0.075 }, usage: "dose", repair: "clean-mirror@k",
    reason: "Smoke settles on the head mirror first and less the further back.",
    symptoms: POWER,
    effects: { ...BUILDS_UP, "mirror-look@k": DIRTY_LOOK },
  },
  {
    id: "mirror-damaged@k", station: "mirror@k", lossAt: "mirror@k", baseRate: { head: 0.012, back: 0.007 }, heavyShare: 0.5, repair: "replace-mirror@k",
    reason: "A scratched or burnt coating, mostly where it was cleaned hard or left dirty.",
    symptoms: POWER,
    effects: { ...BREAKS, "mirror-look@k": BROKEN_LOOK, "tape@after": shows([0.7, 0.04, 0.06, 0.2, 0], [0.45, 0.05, 0.1, 0.4, 0]), "nozzle-mark": shows([0.72, 0.06, 0.08, 0.14], [0.5, 0.08, 0.12, 0.3]) },
  },
  {
    id: "mirror-seat@k", station: "mirror@k", lossAt: "next", movesBeam: true, baseRate: 0.012, usage: "seat", repair: "seat-mirror@k", bedMapByTravel: OVER_THE_BED,
    reason: "A mirror put back turned, on a crumb or not flush sends the beam elsewhere.",
    symptoms: POWER,
    effects: { ...PUT_BACK_WRONG, "mirror-seat@k": shows([0.15, 0.85], [0.06, 0.94]), "tape@after": MARK_OFF, "tape-travel@next": [shows([0.4, 0.6], [0.12, 0.88]), shifts(1.5, 4, 0.8, 1.8)], "nozzle-mark": shows([0.3, 0.45, 0.22, 0.03], [0.1, 0.4, 0.45, 0.05]), "nozzle-touch": shows([0.5, 0.4, 0.1], [0.25, 0.45, 0.3]) },
  },
  {
    id: "aim-off@k", station: "aim@k", lossAt: "next", movesBeam: true, baseRate: { head: 0.015, back: 0.04, tube: 0.012 }, usage: "seat", repair: "aim@k", bedMapByTravel: OVER_THE_BED,
    reason: "Frames settle and screws creep; a knock or a moved gantry does it at once.",
    symptoms: POWER,
    effects: { ...DRIFTS, "tape@after": MARK_OFF, "tape-travel@next": [shows([0.25, 0.75], [0.05, 0.95]), shifts(2, 5, 0.9, 2)], "nozzle-mark": shows([0.35, 0.42, 0.2, 0.03], [0.1, 0.4, 0.46, 0.04]), "nozzle-touch": shows([0.55, 0.36, 0.09], [0.28, 0.45, 0.27]) },
  },
  {
    id: "lens-dirty", station: "lens", lossAt: "lens", cutGain: 1.1, baseRate: 0.22, usage: "dose", repair: "clean-lens",
    reason: "Nearest to the smoke and the commonest cause there is.",
    symptoms: { power: 1, "cut-quality": 0.6 },
    effects: { ...BUILDS_UP, "in-run": shows([0.8, 0.2], [0.55, 0.45]), "lens-look": DIRTY_LOOK, "nozzle-touch": shows([0.62, 0.33, 0.05], [0.35, 0.47, 0.18]), engraving: shows([0.7, 0.15, 0.15], [0.4, 0.28, 0.32]) },
  },
  {
    id: "lens-damaged", station: "lens", lossAt: "lens", cutGain: 1.2, baseRate: 0.02, heavyShare: 0.5, repair: "replace-lens",
    reason: "Burnt-in dirt, a scratch or a crack; old lenses and hurried wiping.",
    symptoms: { power: 1, "cut-quality": 0.8 },
    effects: { ...BREAKS, "in-run": shows([0.55, 0.45], [0.35, 0.65]), "lens-look": BROKEN_LOOK, kerf: [shows([0.6, 0.4], [0.35, 0.65]), shifts(0.04, 0.1, 0.03, 0.05)], engraving: shows([0.45, 0.4, 0.15], [0.2, 0.5, 0.3]), "nozzle-mark": shows([0.6, 0.08, 0.08, 0.24], [0.4, 0.1, 0.12, 0.38]), "nozzle-touch": shows([0.55, 0.38, 0.07], [0.35, 0.45, 0.2]) },
  },
  {
    id: "lens-flipped", station: "lens", loss: [0.18, 0.4], lossSd: [0.06, 0.12], baseRate: 0.01, usage: "seat", heavyShare: 0.6, repair: "turn-lens",
    reason: "Put back upside down after a clean: the focus moves by more than a millimetre.",
    symptoms: { power: 1, "cut-quality": 1 },
    effects: { ...PUT_BACK_WRONG, "lens-side": shows([0.02, 0.98], [0.01, 0.99]), "focus-ramp": [shows([0.1, 0.9], [0.05, 0.95]), shifts(1.3, 1.6, 0.4, 0.4)], kerf: [shows([0.25, 0.75], [0.08, 0.92]), shifts(0.1, 0.2, 0.05, 0.07)], engraving: shows([0.15, 0.75, 0.1], [0.06, 0.8, 0.14]) },
  },
  {
    id: "lens-loose", station: "lens", loss: [0.05, 0.18], lossSd: [0.03, 0.08], baseRate: 0.012, usage: "seat", repair: "seat-lens",
    reason: "A ring not fully home lets the lens tilt and rattle.",
    symptoms: { power: 0.8, "cut-quality": 0.9 },
    effects: { ...PUT_BACK_WRONG, "lens-rattle": shows([0.12, 0.88], [0.04, 0.96]), engraving: shows([0.45, 0.48, 0.07], [0.25, 0.62, 0.13]), kerf: [shows([0.6, 0.4], [0.4, 0.6]), shifts(0.04, 0.09, 0.03, 0.05)], "nozzle-mark": shows([0.5, 0.38, 0.1, 0.02], [0.3, 0.5, 0.17, 0.03]) },
  },
  {
    id: "lens-seat", station: "lens", loss: [0.15, 0.4], lossSd: [0.06, 0.12], baseRate: 0.005, usage: "seat", repair: "seat-lens",
    reason: "Holders with several focal seats take the lens in the wrong one: gauge right, focus elsewhere.",
    symptoms: { power: 0.9, "cut-quality": 1 },
    effects: { ...PUT_BACK_WRONG, "focus-ramp": [shows([0.08, 0.92], [0.03, 0.97]), shifts(3, 8, 1, 3)], kerf: [shows([0.25, 0.75], [0.08, 0.92]), shifts(0.1, 0.3, 0.05, 0.1)], engraving: shows([0.15, 0.75, 0.1], [0.05, 0.8, 0.15]) },
  },
  {
    id: "focus-off", station: "focus", loss: [0.08, 0.3], lossSd: [0.04, 0.1], baseRate: 0.08, repair: "set-focus",
    reason: "The head was moved, the sheet is another thickness, or the gauge was not used.",
    symptoms: { power: 1, "cut-quality": 1 },
    effects: { onset: shows([0.72, 0.13, 0.15], [0.78, 0.08, 0.14]), "last-touched": shows([0.5, 0.22, 0.28], [0.42, 0.24, 0.34]), "bed-map": shows([0.72, 0.03, 0.1, 0.1, 0.05], [0.78, 0.02, 0.08, 0.08, 0.04]), "focus-gauge": [shows([0.15, 0.85], [0.04, 0.96]), shifts(1.3, 3.2, 0.5, 1.2)], "focus-ramp": [shows([0.2, 0.8], [0.06, 0.94]), shifts(1.3, 3.2, 0.5, 1.2)], kerf: [shows([0.45, 0.55], [0.12, 0.88]), shifts(0.06, 0.2, 0.04, 0.08)], engraving: shows([0.35, 0.58, 0.07], [0.1, 0.75, 0.15]) },
  },
  {
    id: "nozzle-clip", station: "nozzle", lossAt: "nozzle", movesBeam: true, baseRate: 0.03, usage: "seat", repair: "centre-nozzle",
    reason: "Lens or nozzle sits off the axis although the aim is good.",
    symptoms: POWER,
    effects: { ...DRIFTS, "bed-map": shows([0.82, 0.05, 0.05, 0.04, 0.04], [0.82, 0.05, 0.05, 0.04, 0.04]), "nozzle-mark": shows([0.1, 0.5, 0.36, 0.04], [0.03, 0.37, 0.55, 0.05]), "nozzle-touch": shows([0.22, 0.55, 0.23], [0.06, 0.4, 0.54]) },
  },
  {
    id: "nozzle-blocked", station: "nozzle", lossAt: "nozzle", loss: [0.04, 0.18], lossSd: [0.02, 0.08], baseRate: 0.06, usage: "dose", repair: "clean-nozzle",
    reason: "Gum and crumbs narrow the bore; acrylic does it fast.",
    symptoms: { power: 0.8, "cut-quality": 0.9 },
    effects: { ...BUILDS_UP, "nozzle-bore": shows([0.08, 0.85, 0.07], [0.03, 0.45, 0.52]), "air-feel": shows([0.4, 0.55, 0.05], [0.12, 0.6, 0.28]), flame: shows([0.6, 0.4], [0.3, 0.7]), "nozzle-mark": shows([0.68, 0.1, 0.2, 0.02], [0.4, 0.15, 0.42, 0.03]), "nozzle-touch": shows([0.55, 0.36, 0.09], [0.25, 0.45, 0.3]) },
  },
  {
    id: "air-weak", station: "air", loss: [0.05, 0.18], lossSd: [0.03, 0.08], baseRate: 0.045, repair: "restore-air",
    reason: "A hose full of gum, a slipped collar or a tired pump; the cut chars and flares.",
    symptoms: { power: 0.7, "cut-quality": 1 },
    effects: { onset: shows([0.45, 0.5, 0.05], [0.65, 0.3, 0.05]), "last-touched": shows([0.55, 0.28, 0.17], [0.5, 0.28, 0.22]), "bed-map": shows([0.72, 0.07, 0.05, 0.04, 0.12], [0.75, 0.06, 0.05, 0.04, 0.1]), "air-feel": shows([0.12, 0.83, 0.05], [0.03, 0.42, 0.55]), flame: shows([0.25, 0.75], [0.06, 0.94]) },
  },
  {
    id: "bed-uneven", station: "bed", loss: [0.06, 0.22], baseRate: 0.045, repair: "level-bed",
    reason: "A crumb under the honeycomb or a bent slat lifts one side out of focus.",
    symptoms: { power: 0.8, "cut-quality": 0.8 },
    effects: { onset: shows([0.6, 0.3, 0.1], [0.68, 0.22, 0.1]), "last-touched": shows([0.5, 0.42, 0.08], [0.46, 0.46, 0.08]), "bed-map": shows([0.08, 0.14, 0.33, 0.33, 0.12], [0.04, 0.12, 0.37, 0.38, 0.09]), "bed-level": [shows([0.15, 0.85], [0.04, 0.96]), shifts(1.8, 4, 0.7, 1.5)], kerf: shows([0.65, 0.35], [0.45, 0.55]), engraving: shows([0.6, 0.35, 0.05], [0.4, 0.52, 0.08]) },
  },
  {
    id: "material-varies", station: "material", loss: [0.07, 0.22], baseRate: 0.06, repair: "other-sheet",
    reason: "Glue, knots, moisture or a warped sheet: the work, not the machine.",
    symptoms: { power: 0.9, "cut-quality": 0.5 },
    effects: { onset: shows([0.3, 0.08, 0.62], [0.25, 0.04, 0.71]), "last-touched": shows([0.85, 0.12, 0.03], [0.85, 0.12, 0.03]), "bed-map": shows([0.3, 0.05, 0.06, 0.06, 0.53], [0.34, 0.04, 0.05, 0.05, 0.52]), "material-swap": shows([0.1, 0.9], [0.03, 0.97]), flame: shows([0.75, 0.25], [0.65, 0.35]) },
  },
  {
    id: "exhaust-weak", station: "exhaust", loss: [0.02, 0.06], lossSd: [0.01, 0.03], baseRate: 0.035, repair: "clean-exhaust",
    reason: "Fan and duct cake up with resin; smoke then stays in the beam and on the optics.",
    symptoms: { smoke: 1, power: 0.3, "cut-quality": 0.4 },
    effects: { ...BUILDS_UP, smoke: shows([0.25, 0.6, 0.15], [0.05, 0.4, 0.55]), "duct-speed": shifts(-0.2, -0.55, 0.08, 0.2), "fan-spin": shows([0.5, 0.45, 0.05], [0.25, 0.5, 0.25]) },
  },
  {
    id: "fan-reversed", station: "exhaust", loss: [0.03, 0.06], lossSd: [0.01, 0.03], baseRate: 0.004, usage: "seat", repair: "turn-fan",
    reason: "An in-line fan refitted with its arrow towards the machine.",
    symptoms: { smoke: 1, power: 0.2 },
    effects: { ...PUT_BACK_WRONG, smoke: shows([0.05, 0.35, 0.6], [0.02, 0.28, 0.7]), "fan-arrow": shows([0.03, 0.97], [0.02, 0.98]), "duct-speed": shifts(-0.7, -1.2, 0.2, 0.3) },
  },
  {
    id: "prefilter-clogged", station: "exhaust", loss: [0.02, 0.05], lossSd: [0.01, 0.02], baseRate: 0.04, usage: "dose", repair: "swap-prefilter",
    reason: "The pre-filter pad fills in weeks of smoky work.",
    symptoms: { smoke: 1, power: 0.2 },
    effects: { ...BUILDS_UP, smoke: shows([0.25, 0.6, 0.15], [0.06, 0.44, 0.5]), "duct-speed": shifts(-0.2, -0.5, 0.08, 0.2), "prefilter-out": shows([0.08, 0.92], [0.03, 0.97]) },
  },
  {
    id: "rails-dirty", station: "motion", loss: [0, 0], baseRate: 0.05, usage: "dose", repair: "clean-rails",
    reason: "Film and debris gather at the ends of travel.",
    symptoms: { motion: 1 },
    effects: { "rail-touch": shows([0.12, 0.88], [0.04, 0.96]), "raster-edge": shows([0.45, 0.5, 0.05], [0.15, 0.7, 0.15]), "bearing-push": shows([0.4, 0.57, 0.03], [0.15, 0.72, 0.13]) },
  },
  {
    id: "belt-loose", station: "motion", loss: [0, 0], baseRate: 0.02, repair: "tension-belt",
    reason: "Belts stretch; a slack one lets lines shift.",
    symptoms: { motion: 1 },
    effects: { belt: shows([0.12, 0.88], [0.04, 0.96]), "raster-edge": shows([0.3, 0.55, 0.15], [0.1, 0.4, 0.5]), "bearing-push": shows([0.8, 0.15, 0.05], [0.6, 0.2, 0.2]) },
  },
  {
    id: "bearing-dry", station: "motion", loss: [0, 0], baseRate: 0.015, repair: "grease-bearings",
    reason: "Linear bearings run dry after months of wiping.",
    symptoms: { motion: 1 },
    effects: { "bearing-push": shows([0.12, 0.78, 0.1], [0.04, 0.6, 0.36]), "raster-edge": shows([0.55, 0.38, 0.07], [0.25, 0.5, 0.25]) },
  },
  {
    id: "encoder-dirty", station: "encoder", loss: [0, 0], baseRate: 0.05, usage: "dose", repair: "clean-encoder",
    reason: "The strip times the firing; a blotch across it shifts lines.",
    symptoms: { motion: 1 },
    effects: { "strip-look": shows([0.1, 0.9], [0.03, 0.97]), "raster-edge": shows([0.3, 0.35, 0.35], [0.08, 0.3, 0.62]) },
  },
  {
    id: "camera-dirty", station: "camera", loss: [0, 0], baseRate: 0.04, usage: "dose", repair: "clean-camera",
    reason: "Smoke settles on the lid camera.",
    symptoms: { sensing: 1 },
    effects: { "camera-picture": shows([0.15, 0.85], [0.04, 0.96]), homing: shows([0.7, 0.3], [0.4, 0.6]) },
  },
  {
    id: "homing-mark-dirty", station: "camera", loss: [0, 0], baseRate: 0.03, usage: "dose", repair: "clean-camera",
    reason: "A stained mark is not found at start-up.",
    symptoms: { sensing: 1 },
    effects: { homing: shows([0.2, 0.8], [0.05, 0.95]) },
  },
  {
    id: "sensor-window-dirty", station: "camera", loss: [0, 0], baseRate: 0.03, usage: "dose", repair: "clean-camera",
    reason: "The two small windows under the head fog up and the height reads wrong.",
    symptoms: { sensing: 1 },
    effects: { "height-sense": shows([0.15, 0.85], [0.04, 0.96]), "focus-gauge": shows([0.6, 0.4], [0.35, 0.65]) },
  },
  {
    id: "fan-clogged", station: "motion", loss: [0, 0], baseRate: 0.02, usage: "dose", repair: "clean-head-fan",
    reason: "Head and case fans draw dust until a guard stops the job.",
    symptoms: { cooling: 1 },
    effects: { pauses: shows([0.25, 0.75], [0.06, 0.94]) },
  },
  {
    id: "job-list-full", station: "settings", loss: [0, 0], baseRate: 0.015, repair: "clear-job-list",
    reason: "Some controllers stop at 99 stored jobs with an odd message.",
    symptoms: { housekeeping: 1 },
    effects: { "job-list": shows([0.02, 0.98], [0.01, 0.99]) },
  },
];
