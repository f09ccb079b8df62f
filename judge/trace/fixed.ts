/** Two routines that ask nothing of what they found before: clean everything from the head on, and walk the path from the tube on. */
import type { Case } from "./world";
import { LIMIT_MINUTES } from "./world";

const mirrorsOf = (c: Case) => c.world.spec.stations.filter((s) => s.role === "mirror").map((s) => s.id.replace("mirror-", ""));
const has = (c: Case, repair: string) => c.world.model.repairs.some((r) => r.id === repair);

/** Cleans part after part from the head back, with a cut after each; then tries everything else in order of its minutes. */
export function cleanHeadFirst(c: Case): void {
  c.signs();
  const mirrors = mirrorsOf(c).reverse();
  const cleans = ["clean-lens", "clean-nozzle", ...mirrors.map((k) => `clean-mirror@${k}`), "clean-side-window", "clean-window"];
  const rest = c.world.model.repairs
    .map((r) => r.id)
    .filter((id) => !cleans.includes(id) && c.world.model.faults.some((f) => f.repair === id && (f.symptoms.power ?? 0) > 0.3))
    .sort((a, b) => c.repair(a).minutes - c.repair(b).minutes);
  for (const id of [...cleans, ...rest].filter((r) => has(c, r))) {
    if (c.minutes >= LIMIT_MINUTES) return;
    if (c.round([id]).holds) return;
  }
  c.gaveUp = true;
}

interface Stop {
  readonly check: string;
  readonly bad: readonly string[];
  /** Beyond this figure it is bad. */
  readonly beyond?: number;
  readonly repairs: Readonly<Record<string, string>> | string;
}

/** Walks from the tube on with tape and torch; what is seen bad is mended and proven before the walk goes on. */
export function walkFromTube(c: Case): void {
  c.signs();
  const dirt = (clean: string, spare: string) => ({ film: clean, spots: clean, damaged: spare });
  const look = (check: string, clean: string, spare: string): Stop => ({
    check,
    bad: ["film", "spots", "damaged"],
    repairs: dirt(clean, spare),
  });
  const mirrors = mirrorsOf(c);
  const stops: Stop[] = [
    { check: "power-limit", bad: ["left-low"], repairs: "power-back" },
    { check: "settings", bad: ["changed"], repairs: "settings-right" },
    { check: "tube-current", bad: ["low", "unsteady"], repairs: "supply-qualified" },
    { check: "coolant-temp", bad: [], beyond: 25, repairs: "cool-down" },
    { check: "coolant-flow", bad: ["low"], repairs: "coolant-flow" },
    { check: "water-look", bad: ["cloudy", "coloured"], repairs: "change-coolant" },
    { check: "bubbles", bad: ["yes"], repairs: "bleed-coolant" },
    { check: "tube-mark", bad: ["distorted", "weak"], repairs: "tube-supplier" },
    look("window-look", "clean-window", "tube-supplier"),
    look("side-window-look", "clean-side-window", "replace-side-window"),
    ...mirrors.flatMap((k, i): Stop[] => [
      { check: `tape@${k}`, bad: ["off", "clipped"], beyond: 3, repairs: `aim@${i === 0 ? 0 : mirrors[i - 1]}` },
      { check: `tape-travel@${k}`, bad: ["apart"], beyond: 2.5, repairs: `aim@${i === 0 ? 0 : mirrors[i - 1]}` },
      look(`mirror-look@${k}`, `clean-mirror@${k}`, `replace-mirror@${k}`),
      { check: `mirror-seat@${k}`, bad: ["turned"], repairs: `seat-mirror@${k}` },
    ]),
    look("lens-look", "clean-lens", "replace-lens"),
    { check: "lens-side", bad: ["flipped"], repairs: "turn-lens" },
    { check: "lens-rattle", bad: ["rattles"], repairs: "seat-lens" },
    { check: "nozzle-bore", bad: ["narrowed", "blocked"], repairs: "clean-nozzle" },
    { check: "nozzle-mark", bad: ["off", "crescent", "double"], repairs: "centre-nozzle" },
    { check: "focus-gauge", bad: ["off"], beyond: 0.9, repairs: "set-focus" },
    { check: "air-feel", bad: ["weak", "none"], repairs: "restore-air" },
    { check: "material-swap", bad: ["cuts-now"], repairs: "other-sheet" },
    { check: "bed-level", bad: ["off"], beyond: 1.2, repairs: "level-bed" },
  ];
  for (const stop of stops.filter((s) => c.world.model.checks.some((x) => x.id === s.check))) {
    if (c.minutes >= LIMIT_MINUTES) return;
    const found = c.ask(stop.check);
    if (!found) continue;
    const isBad = found.value === undefined ? stop.bad.includes(found.outcome ?? "") : isBeyond(stop, found.value);
    if (!isBad) continue;
    if (c.brings(found)) return;
    const repair = typeof stop.repairs === "string" ? stop.repairs : stop.repairs[found.outcome ?? ""];
    if (repair === undefined || !has(c, repair) || c.rounds.some((r) => r.includes(repair))) continue;
    if (c.round([repair]).holds) return;
  }
  c.gaveUp = true;
}

/** Figures of which little is bad: current and flow. */
const USUAL: Readonly<Record<string, number>> = { "tube-current": 20.5, "coolant-flow": 1.5 };
const isBeyond = ({ check, beyond }: Stop, value: number): boolean =>
  USUAL[check] === undefined ? value > (beyond ?? Number.POSITIVE_INFINITY) : value < (USUAL[check] as number);
