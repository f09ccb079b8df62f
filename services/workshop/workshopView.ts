/** View model of the Workshop: what a machine is, in the fields of its forms, with the state each form is made from. */
import { agents } from "#catalog/agents";
import { materialKinds } from "#catalog/materials";
import { ROLE_TRAITS, STATION_ROLES, type StationRole } from "#core/beam";
import { type PathStation, pathProblems, standing, staysInPlace, tubeKindOf } from "#core/machine";
import { pathToAim } from "../aim/sitting";
import type { Gathered } from "../machine/gathered";
import { startingLayout } from "../machine/trade";
import { mayBeCut } from "../machine/usual";
import { unitsInForce } from "../units";
import { number } from "../words";
import { shelfOf, withoutShelf } from "./fittings";
import { settingOf } from "./materials";
import { nameplateOf } from "./nameplate";
import { orderOf } from "./path";
import { versionText } from "./stale";
import { ADD_WORDS, BEAM_WORDS, MOUNT_WORDS, ROLE_WORDS } from "./words";

/** In the matrix so that they can be refused, but nothing one keeps on the shelf for this. */
const NEVER_OWNED: ReadonlySet<string> = new Set(["used-swab", "tap-water", "vinegar", "paper-towel", "abrasive", "ethylene-glycol"]);

/** How a station is held, or where it is behind. */
function heldWords(s: PathStation): string {
  switch (s.role) {
    case "mirror":
      return `${MOUNT_WORDS[s.mount].replace(/ \(.*/, "")}, cleaned ${staysInPlace(s) ? "in place" : "out"}`;
    case "lens":
      return MOUNT_WORDS[s.mount];
    case "tube":
    case "window":
    case "side-window":
    case "nozzle":
      return s.panel ?? "";
  }
}

/** Where the beam goes on from a tube or mirror where its owner has not said. */
function usualBeamTo(g: Gathered, id: string): string | undefined {
  const path = pathToAim(g.trade);
  const found = "problem" in path ? undefined : path.elements.find((e) => e.id === id);
  return found && BEAM_WORDS[found.beamTo];
}

/** `station` is the one whose form is shown, by id. */
export function workshopView(g: Gathered, stationId: string | null) {
  const { path, fittings } = g.trade.layout;
  const on = standing(path);
  const station = on.find((s) => s.id === stationId) ?? on.find((s) => s.role === "mirror") ?? on[0];
  const has = (role: StationRole) => on.some((s) => s.role === role);
  return {
    slug: g.machine.slug,
    currency: g.currency,
    units: unitsInForce(),
    hasBench: g.hasBench,
    name: g.machine.name,
    layout: startingLayout(g.machine.layout).name,
    ratedPowerW: number(g.machine.ratedPowerW, 0),
    ratedTubeHours: number(g.machine.ratedTubeHours, 0),
    problems: pathProblems(path),
    rows: on.map((s) => ({
      id: s.id,
      name: s.name,
      what: s.name.toLowerCase().includes(ROLE_WORDS[s.role]) ? "" : ROLE_WORDS[s.role],
      how: heldWords(s),
    })),
    hidden: path.filter((s) => s.hidden).map((s) => ({ id: s.id, name: s.name })),
    addable: STATION_ROLES.filter((r) => ROLE_TRAITS[r].isRepeated || !has(r))
      // What a path may have more of comes first.
      .sort((a, b) => Number(ROLE_TRAITS[b].isRepeated) - Number(ROLE_TRAITS[a].isRepeated))
      .map((role) => ({ role, name: ADD_WORDS[role] })),
    station,
    usualBeamTo: station && usualBeamTo(g, station.id),
    nominalPercent: station ? number(100 * ROLE_TRAITS[station.role].nominalTransmission) : "",
    fittings: {
      ...fittings,
      tube: tubeKindOf(fittings),
      room: fittings.room ?? "clean",
      counter: fittings.counter ?? "panel",
      exhaust: fittings.exhaust ?? "usual",
      beamCorner: fittings.beamCorner ?? "back-left",
    },
    materials: g.materials.map((m) => {
      const kind = materialKinds.find((k) => k.id === m.kind);
      return {
        id: m.id,
        name: m.name,
        thickness: number(m.thicknessMm),
        kind: kind?.name ?? m.kind,
        dirt: kind?.dirt ?? "resin",
        speed: m.usualSpeedMmPerS === undefined ? "" : number(m.usualSpeedMmPerS),
        power: m.usualSetPercent === undefined ? "" : number(m.usualSetPercent, 0),
        optics: m.smokeOptics === undefined ? "" : number(m.smokeOptics, 2),
        nozzle: m.smokeNozzle === undefined ? "" : number(m.smokeNozzle, 2),
        usualOptics: number(kind?.optics ?? 1, 2),
        usualNozzle: number(kind?.nozzle ?? 1, 2),
        hidden: m.hidden,
        uncut: !mayBeCut(m),
        madeFrom: versionText(settingOf(m)),
      };
    }),
    kinds: materialKinds.map((k) => ({ value: k.id, label: k.name })),
    shelf: agents
      .filter((a) => !NEVER_OWNED.has(a.id))
      .map((a) => ({ id: a.id, name: a.name, kind: a.kind, owned: fittings.agents?.includes(a.id) ?? false })),
    shelfKnown: fittings.agents !== undefined,
    madeFrom: {
      station: versionText(station ?? {}),
      order: orderOf(path),
      fittings: versionText(withoutShelf(fittings)),
      shelf: versionText(shelfOf(fittings)),
      machine: versionText(nameplateOf(g.machine)),
    },
    machines: g.machines.map((m) => ({
      slug: m.slug,
      name: m.name,
      here: m.slug === g.machine.slug,
      layout: startingLayout(m.layout).name,
    })),
  };
}
