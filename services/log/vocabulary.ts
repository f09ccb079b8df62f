/** What the owner of one machine may speak of in the log's one line. */
import { GRADES, ROLE_TRAITS } from "#core/beam";
import type { SpokenPlace, Vocabulary } from "#core/entry";
import type { Gathered } from "../machine/gathered";
import { unitsInForce } from "../units";
import { doneParts } from "./kinds/service";
import { ladderMaterials } from "./options";

/** All a part may be called: its name, its name without where it stands, its role, its number. */
function namesOf(id: string, name: string): string[] {
  const plain = name.toLowerCase();
  const short = plain.replace(/ in .*$|, .*$/, "");
  const number = /^mirror-(\d+)$/.exec(id)?.[1];
  return [...new Set([short, plain, ...(number ? [`m${number}`, `mirror ${number}`] : []), id.replaceAll("-", " ")])];
}

export function vocabularyOf(g: Gathered): Vocabulary {
  const { layout } = g.trade;
  const stations = layout.stations.map(
    (s): SpokenPlace => ({
      id: s.id,
      label: layout.names[s.id] ?? s.id,
      names: namesOf(s.id, layout.names[s.id] ?? s.id),
      isMetered: ROLE_TRAITS[s.role].isMetered,
    }),
  );
  return {
    materials: ladderMaterials(g).map((m) => {
      const own = g.materials.find((x) => x.id === m.id);
      return {
        id: m.id,
        label: m.label,
        name: own?.name ?? m.label,
        thicknessMm: own?.thicknessMm ?? 0,
        speedMmPerS: own?.usualSpeedMmPerS,
        setPercent: Number(m.setPercent),
        rungs: m.rungs.map(Number),
      };
    }),
    units: unitsInForce(),
    stations,
    parts: doneParts(g).map(({ id, name }) => ({ id, label: name, names: namesOf(id, name) })),
    counterHours: g.usage.lastCounter?.counterHours,
    grades: GRADES,
  };
}
