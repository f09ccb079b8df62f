import * as kinds from "./kinds";
import { Line } from "./line";
import { RESULTS, said, type Understood, type Vocabulary } from "./vocabulary";

/** In the order they are tried: those that announce themselves first, then those that are told by what is in them. */
const RULES: readonly kinds.Rule[] = [
  kinds.note,
  kinds.cost,
  kinds.focus,
  kinds.tape,
  kinds.engraving,
  kinds.ladder,
  kinds.grade,
  kinds.coolant,
  kinds.current,
  kinds.power,
  kinds.airflow,
  kinds.cut,
  kinds.hours,
  kinds.service,
];

/**
 * What one line of text says of a machine, as the fields of the log's form of its kind; undefined where it says nothing that can be
 * measured (it may still be a note). Units may be left out where they cannot be mistaken. What is not understood becomes the note, never
 * a guess.
 *
 * @example understand("3 mm birch 14 60 hangs", vocabulary)?.says; // "Cut: 3 mm birch ply, 14 mm/s, 60 %, it hangs"
 */
export function understand(text: string, v: Vocabulary): Understood | undefined {
  if (text.trim() === "") return undefined;
  for (const rule of RULES) {
    const found = rule(new Line(text, v.units), v);
    if (found) return found;
  }
  return undefined;
}

const STARTS = ["ladder", "coolant", "duct", "current", "power", "tape", "focus", "cost", "lost", "note"];
const MOST = 6;

/** Lines the text may become, best first, at most six. */
export function completions(text: string, v: Vocabulary): string[] {
  if (text.trim() === "") return starters(v);
  const [, head = "", partial = ""] = /^(.*?)([\p{L}-]*)$/su.exec(text) ?? [];
  const found = understand(text, v);
  const known = new Line(head, v.units);
  const hasMaterial = v.materials.some((m) => found?.fields.materialId === String(m.id));
  const names = [
    ...(hasMaterial ? Object.keys(RESULTS).slice(0, 4) : v.materials.map((m) => (/\d\s*(mm|in|inch)?\s*$/.test(head) ? m.name : m.label))),
    ...v.grades,
    ...v.stations.flatMap((s) => s.names.slice(0, 1)),
    ...v.parts.flatMap((p) => [`${p.label.toLowerCase()} cleaned`, `${p.label.toLowerCase()} replaced`]),
    ...(known.tokens.length === 0 ? STARTS : ["cleaned", "replaced", "near", "far", "cloudy", "changed"]),
  ];
  const wanted = partial.toLowerCase();
  const next =
    wanted === ""
      ? hasMaterial && found?.missing.includes("how it went")
        ? Object.keys(RESULTS).slice(0, 4)
        : []
      : names.filter((n) => n.toLowerCase().startsWith(wanted) && n.toLowerCase() !== wanted);
  const gap = wanted === "" && head !== "" && !/\s$/.test(head) ? " " : "";
  return [...new Set(next.map((n) => `${head}${gap}${n}`))].slice(0, MOST);
}

/** What is told most often, with this machine's own figures. */
function starters(v: Vocabulary): string[] {
  const [m] = v.materials;
  return [
    ...(v.counterHours === undefined ? [] : [`${said(v.counterHours + 1)} h`]),
    ...(m
      ? [
          `${m.label} ${new Line("", v.units).saysBare(m.speedMmPerS ?? m.rungs[0] ?? 10, "mm/s")} ${said(m.setPercent)} through`,
          `${m.label} 25 min`,
        ]
      : []),
    `coolant ${new Line("", v.units).saysBare(21, "°C")}`,
    "lens haze",
  ];
}
