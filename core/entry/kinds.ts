/** How a line of each kind is understood. A rule takes what it knows from the line; what is left becomes the note. */
import type { Line } from "./line";
import { sortLeftover } from "./meaning";
import {
  DONE,
  DONE_WORDS,
  RESULT_WORDS,
  RESULTS,
  type SpokenMaterial,
  type SpokenPlace,
  said,
  type Understood,
  type Vocabulary,
} from "./vocabulary";

/** Undefined where the line is of another kind. A rule is given a fresh line, so that what it took does not bind the next. */
export type Rule = (line: Line, v: Vocabulary) => Understood | undefined;

type Fields = Record<string, string>;

interface Leaves {
  /** Words that nobody knows may stand in the note. */
  readonly free?: boolean;
  /** Further words that say nothing in a line of this kind. */
  readonly empty?: string;
}

/** Puts what was understood together. A line with a word that is not understood and could turn it round is asked about, never kept. */
function understood(
  line: Line,
  kind: string,
  name: string,
  parts: readonly string[],
  fields: Fields,
  missing: readonly string[] = [],
  leaves: Leaves = {},
): Understood {
  const { unclear, note } = sortLeftover(line.left(), line.aside, leaves);
  const doubts = [...unclear.map((word) => `what “${word}” means here`), ...line.doubts];
  return {
    kind,
    fields: { ...fields, ...(note === "" ? {} : { note }) },
    says: `${name}: ${parts.filter(Boolean).join(", ")}${note === "" ? "" : `. Note: ${note}`}`,
    missing: [...missing, ...doubts],
    ...(doubts.length > 0 ? { unclear: true } : {}),
  };
}

/** A second part in a line about one: which of them is meant is asked. */
function onePart(line: Line, v: Vocabulary, first: SpokenPlace | undefined): string[] {
  const rest = first && line.peekName([...v.parts, ...v.stations]);
  return rest && first && rest.id !== first.id ? [`one part a line: ${first.label} or ${rest.label}`] : [];
}

/** The material a line names, by its words and the thickness before them; undefined where it could be two, or is of another thickness. */
function materialOf(line: Line, v: Vocabulary): SpokenMaterial | undefined {
  const free = line.tokens.map((t, i) => ({ t, before: line.tokens[i - 1] })).filter(({ t }) => t.is === "word" && !t.used);
  const scored = v.materials.flatMap((m) => {
    const own = m.name
      .toLowerCase()
      .split(/[^\p{L}]+/u)
      .filter((w) => w.length > 1);
    const hits = free.filter(({ t }) => t.is === "word" && own.some((w) => w === t.text || (t.text.length >= 4 && w.startsWith(t.text))));
    // A figure right before the name is its thickness, with or without its unit.
    const [thick] = hits.flatMap(({ before }) =>
      before?.is === "figure" && !before.used && (before.unit === "mm" || before.unit === undefined) ? [before] : [],
    );
    if (hits.length === 0 || (thick?.unit === "mm" && Math.abs(thick.value - m.thicknessMm) > (thick.typed === "inch" ? 0.2 : 0.01)))
      return [];
    const thickMm = thick && (thick.unit === undefined ? line.fromWritten(thick.value, "mm") : thick.value);
    const fits = thickMm !== undefined && Math.abs(thickMm - m.thicknessMm) < (thick?.typed === "inch" ? 0.2 : 0.01);
    return [{ m, taken: [...hits.map(({ t }) => t), ...(fits && thick ? [thick] : [])], score: hits.length + (fits ? 1 : 0) }];
  });
  const best = Math.max(0, ...scored.map((s) => s.score));
  const [first, second] = scored.filter((s) => s.score === best);
  if (!first || second) return undefined;
  for (const t of first.taken) t.used = true;
  return first.m;
}

const missingOf = (wanted: Readonly<Record<string, unknown>>) =>
  Object.entries(wanted).flatMap(([words, value]) => (value === undefined ? [words] : []));
const fieldsOf = (values: Readonly<Record<string, string | number | undefined>>): Fields =>
  Object.fromEntries(Object.entries(values).flatMap(([k, x]) => (x === undefined ? [] : [[k, typeof x === "number" ? said(x) : x]])));

export const note: Rule = (line) =>
  line.startsWith("note", "note:")
    ? {
        kind: "note",
        fields: { note: line.text.replace(/^\s*note:?\s*/i, "") },
        says: `Note: ${line.rest()}`,
        missing: line.rest() === "" ? ["what to note"] : [],
      }
    : undefined;

const SPENT = {
  lens: "part",
  mirror: "part",
  tube: "part",
  part: "part",
  wipes: "supplies",
  swabs: "supplies",
  supplies: "supplies",
  agents: "supplies",
  service: "service",
  visit: "service",
} as const;

export const cost: Rule = (line) => {
  const lost = line.startsWith("lost");
  if (!lost && !line.startsWith("cost", "paid", "bought", "spent")) return undefined;
  const peek = line.tokens.flatMap((t) => (t.is === "word" ? [t.text] : []));
  const what = lost
    ? peek.some((w) => /^(spoil|sheet|job|piece)/.test(w))
      ? "spoiled"
      : "waiting"
    : (peek.flatMap((w) => (Object.hasOwn(SPENT, w) ? [SPENT[w as keyof typeof SPENT]] : []))[0] ?? "other");
  const hours = line.figure("h");
  const isMoney = /[€$£¥]|\b(eur|euros?|usd|dollars?|gbp|pounds?|chf|francs?|crowns?|kr)\b/i.test(line.text);
  const minutes = line.figure("min") ?? (hours === undefined ? (lost && !isMoney ? line.figure(undefined) : undefined) : hours * 60);
  // "Bought 3 lenses" says how many, not how much; "lost 40 euro" says money, not minutes.
  const counted = line.tokens[0]?.is === "word" && line.tokens[0].text === "bought";
  const money = lost
    ? isMoney
      ? line.figure(undefined)
      : undefined
    : counted
      ? (figureAfter(line, ["for", "at"]) ?? lastFigure(line))
      : line.figure(undefined);
  const said1 = [money === undefined ? "" : `${said(money)} spent`, minutes === undefined ? "" : `${said(minutes)} min lost`];
  return understood(
    line,
    "cost",
    lost ? "Lost" : "Cost",
    said1,
    fieldsOf({ what, money, minutes }),
    money === undefined && minutes === undefined ? [lost ? "how many minutes" : "how much"] : [],
    { free: true },
  );
};

export const focus: Rule = (line) => {
  if (!line.startsWith("focus", "ramp")) return undefined;
  const offsetMm = line.measure("mm");
  return understood(
    line,
    "focus",
    "Focus ramp",
    [offsetMm === undefined ? "" : `finest ${line.says(offsetMm, "mm")} from the gauge's height`],
    fieldsOf({ offsetMm }),
    missingOf({ [`how many ${line.unit("mm")}`]: offsetMm }),
    { empty: "ramp finest" },
  );
};

export const tape: Rule = (line, v) => {
  if (!line.startsWith("tape", "mark")) return undefined;
  const place = line.name(v.stations);
  const travel = line.word({ near: "near", far: "far" });
  const mark = line.word({ round: "round", crescent: "crescent", double: "double" });
  const [right, up] = [line.measure("mm"), line.measure("mm")];
  return understood(
    line,
    "tape",
    "Tape",
    [
      place?.label ?? "",
      travel ?? "",
      right === undefined ? "" : `${line.says(right, "mm")} to the right`,
      up === undefined ? "" : `${line.says(up, "mm")} up`,
      mark ?? "",
    ],
    fieldsOf({ station: place?.id, travel, mark, rightMm: right, upMm: up }),
    [
      ...missingOf({ "at which mirror": place, [`how far to the right, in ${line.unit("mm")}`]: right, "how far up": up }),
      ...onePart(line, v, place),
    ],
    { empty: "tape mark" },
  );
};

export const engraving: Rule = (line) => {
  if (!line.startsWith("engraving", "block")) return undefined;
  const look = line.word({ crisp: "crisp", blurred: "blurred", faint: "faint" });
  const edges = line.word({ straight: "straight", wavy: "wavy", stepped: "stepped" });
  return understood(
    line,
    "engraving",
    "Engraving",
    [look ?? "", edges ? `sides ${edges}` : ""],
    fieldsOf({ look, edges }),
    missingOf({ "crisp, blurred or faint": look }),
  );
};

export const ladder: Rule = (line, v) => {
  if (!line.startsWith("ladder", "rungs")) return undefined;
  const material = materialOf(line, v);
  const setPercent = line.figure("%") ?? material?.setPercent;
  const hungAt = figureBefore(line, ["hangs", "hung", "hang"]);
  const fellAt = figureAfter(line, ["to"]) ?? figureBefore(line, ["dropped", "drops", "fell"]);
  line.word({ dropped: 1, drops: 1, fell: 1 });
  const speeds = [...(material?.rungs ?? [])];
  // As it stands on the coupon: rounded where it is read in another unit.
  const rung = (v: number | undefined) => (v === undefined ? undefined : (speeds.find((s) => Math.abs(s - v) < 0.005 * s) ?? v));
  const [fell, hung] = [rung(fellAt), rung(hungAt)];
  for (const extra of [fell, hung]) if (extra !== undefined && !speeds.includes(extra)) speeds.push(extra);
  speeds.sort((a, b) => a - b);
  const ends = speeds.map((s) => (s === hung ? "hangs" : fell !== undefined && s <= fell ? "dropped" : "stays"));
  const rungs = Object.fromEntries(
    speeds.flatMap((s, i) => [
      [`speed-${i}`, said(s)],
      [`end-${i}`, ends[i] as string],
    ]),
  );
  const known = fell !== undefined || hung !== undefined;
  return understood(
    line,
    "ladder",
    "Ladder",
    [
      material?.label ?? "",
      setPercent === undefined ? "" : `${said(setPercent)} %`,
      known && material
        ? `${speeds.map((s) => line.saysBare(s, "mm/s")).join(", ")} ${line.unit("mm/s")}: ${fell === undefined ? "none dropped" : `dropped to ${line.saysBare(fell, "mm/s")}`}${hung === undefined ? "" : `, ${line.saysBare(hung, "mm/s")} hangs`}, the others stay`
        : "",
    ],
    { ...fieldsOf({ materialId: material?.id, setPercent }), ...(known ? rungs : {}) },
    missingOf({ "which material": material, "the speed it dropped to": known ? true : undefined }),
  );
};

/** Takes the figure right before or after one of some words, and the word. */
function figureBefore(line: Line, words: readonly string[]): number | undefined {
  const i = line.tokens.findIndex((t) => t.is === "word" && !t.used && words.includes(t.text));
  return takeFigure(line, i - 1, i);
}
function figureAfter(line: Line, words: readonly string[]): number | undefined {
  const i = line.tokens.findIndex((t, k) => t.is === "word" && !t.used && words.includes(t.text) && line.tokens[k + 1]?.is === "figure");
  return takeFigure(line, i + 1, i);
}
/** Takes the figure a line ends with. */
function lastFigure(line: Line): number | undefined {
  const last = line.tokens.at(-1);
  if (last?.is !== "figure" || last.used || last.unit !== undefined) return undefined;
  last.used = true;
  return last.value;
}
function takeFigure(line: Line, at: number, word: number): number | undefined {
  const [figure, w] = [line.tokens[at], line.tokens[word]];
  if (figure?.is !== "figure" || figure.used || !w || (figure.unit !== undefined && figure.unit !== "mm/s")) return undefined;
  figure.used = true;
  w.used = true;
  return figure.unit === undefined ? line.fromWritten(figure.value, "mm/s") : figure.value;
}

/** A new counter or a new tube begins again: only where it is said so. */
const NEW = ["new", "changed", "replaced", "fitted"];

export const hours: Rule = (line, v) => {
  const named = line.startsWith("counter", "hours", "clock");
  const alone = line.tokens.length === 1 && line.tokens[0]?.is === "figure" ? line.tokens[0] : undefined;
  // A bare figure is a counter reading where it can be no other: a little more than the last one.
  const near =
    alone?.unit === undefined &&
    alone !== undefined &&
    v.counterHours !== undefined &&
    alone.value >= v.counterHours &&
    alone.value <= v.counterHours + 300;
  if (!named && !near && !(line.hasUnit("h") && !line.hasUnit("%", "mm/s"))) return undefined;
  const counterHours = line.figure("h", undefined);
  const isNew = line.has("tube") && line.has(...NEW);
  if (isNew) {
    line.word({ tube: 1 });
    line.word(Object.fromEntries(NEW.map((w) => [w, 1])));
  }
  const signed = counterHours !== undefined && /[+-]\d/.test(line.text);
  // The hours that were run are no reading; nor is a reading lower than the last without a new tube or counter.
  const lower = counterHours !== undefined && !isNew && v.counterHours !== undefined && counterHours < v.counterHours;
  const far = counterHours !== undefined && !isNew && v.counterHours !== undefined && counterHours > v.counterHours + MOST_HOURS_AT_ONCE;
  const unnamed =
    !named && !near && v.counterHours === undefined && line.tokens.length > 1 && !line.has("counter", "panel", "reads", "shows");
  return understood(
    line,
    "hours",
    "Hours",
    [counterHours === undefined ? "" : `${said(counterHours)} h on the counter`, isNew ? "new tube" : ""],
    fieldsOf({ counterHours, because: isNew ? "tube-changed" : undefined }),
    [
      ...missingOf({ "the hours on the counter": counterHours }),
      ...(signed || unnamed ? ["what the counter shows now: hours that were run are no reading"] : []),
      ...(lower ? [`what the counter shows now: it showed ${said(v.counterHours ?? 0)} h before. Write "new tube" if it is new`] : []),
      ...(far ? [`the reading once more: it showed ${said(v.counterHours ?? 0)} h before`] : []),
    ],
    { empty: "counter hours clock panel meter tube" },
  );
};

/** More than this between two readings is rather a slip of the pen. */
const MOST_HOURS_AT_ONCE = 3000;

export const current: Rule = (line) => {
  if (!line.startsWith("current", "amps", "ma") && !line.hasUnit("mA")) return undefined;
  const currentMa = line.figure("mA") ?? line.figure(undefined);
  const setPercent = line.figure("%") ?? line.figure(undefined) ?? 100;
  line.word({ at: 1 });
  return understood(
    line,
    "current",
    "Tube current",
    [currentMa === undefined ? "" : `${said(currentMa)} mA`, `at ${said(setPercent)} %`],
    fieldsOf({ currentMa, setPercent }),
    missingOf({ "how many mA": currentMa }),
    { empty: "current tube" },
  );
};

/** A figure without a unit outside of this may be no temperature. */
const COOLANT_C = [8, 45] as const;
const WATER = ["coolant", "water", "chiller"];
const LOOKS = { clear: "clear", cloudy: "cloudy", milky: "cloudy", coloured: "coloured", green: "coloured", yellow: "coloured" } as const;

export const coolant: Rule = (line, v) => {
  const flowFirst = line.startsWith("flow");
  if (!flowFirst && !line.has(...WATER) && !line.hasUnit("°C", "L/min")) return undefined;
  line.word(Object.fromEntries(WATER.map((w) => [w, 1])));
  const empty = "coolant water chiller temperature temp";
  const part = v.parts.find((p) => p.id === "coolant-change");
  // A new chiller is no new water.
  const changed = line.has("chiller") ? undefined : line.word({ changed: true, new: true, replaced: true });
  if (changed && part) return understood(line, "service", part.label, ["changed"], { part: part.id, what: "replaced" }, [], { empty });
  line.word({ flow: 1 });
  const toppedUp = line.word({ topped: true, top: true, added: true, filled: true });
  if (toppedUp) line.word({ up: 1 });
  const toppedUpL = toppedUp ? line.measure("L") : undefined;
  const lost = toppedUpL === undefined ? undefined : line.word({ leaked: "leaked", evaporated: "evaporated" } as const);
  const glycolPercent = line.word({ glycol: true }) ? line.figure("%") : undefined;
  const flowLpm = line.figure("L/min") ?? (flowFirst ? line.bare("L/min") : undefined);
  const freezes = line.word({ freezes: true, freezing: true, frost: true });
  if (freezes) line.word({ at: 1, point: 1 });
  const freezingC = freezes ? line.measure("°C") : undefined;
  const marked = line.figure("°C");
  const bare = marked === undefined ? line.bare("°C") : undefined;
  const temperatureC = marked ?? bare;
  const look = line.word(LOOKS);
  const parts = [
    temperatureC === undefined ? "" : line.says(temperatureC, "°C"),
    flowLpm === undefined ? "" : line.says(flowLpm, "L/min"),
    toppedUpL === undefined ? "" : `${line.says(toppedUpL, "L")} topped up${lost === undefined ? "" : `, ${lost}`}`,
    glycolPercent === undefined ? "" : `${said(glycolPercent)} % glycol`,
    freezingC === undefined ? "" : `freezes at ${line.says(freezingC, "°C")}`,
    look ?? "",
  ];
  return understood(
    line,
    "coolant",
    "Coolant",
    parts,
    fieldsOf({ temperatureC, flowLpm, toppedUpL, lost, glycolPercent, freezingC, look }),
    [
      ...(parts.some(Boolean)
        ? []
        : [`${line.unit("°C")}, ${line.unit("L/min")}, ${line.unit("L") === "L" ? "litres" : "gallons"} topped up, or how it looks`]),
      ...(freezes && freezingC === undefined ? ["at how many degrees it freezes"] : []),
      ...(freezingC !== undefined && freezingC > 0 ? ["where it freezes: a mixture freezes below water, with a minus"] : []),
      ...(toppedUp && toppedUpL === undefined ? [line.unit("L") === "L" ? "how many litres" : "how many gallons"] : []),
      ...(bare !== undefined && (bare < COOLANT_C[0] || bare > COOLANT_C[1])
        ? [`whether ${line.saysBare(bare, "°C")} is ${line.unit("°C")} or something else`]
        : []),
    ],
    { empty },
  );
};

export const airflow: Rule = (line) => {
  if (!line.startsWith("duct", "airflow", "exhaust") && !line.hasUnit("m/s")) return undefined;
  const ductSpeedMps = line.measure("m/s");
  const filter = { filter: 1, prefilter: 1, "pre-filter": 1 };
  const out = line.has(...Object.keys(filter)) ? line.word({ without: true, out: true }) : undefined;
  if (out) line.word(filter);
  if (ductSpeedMps === undefined && line.word(DONE) !== undefined) return undefined;
  return understood(
    line,
    "airflow",
    "Airflow",
    [ductSpeedMps === undefined ? "" : `${line.says(ductSpeedMps, "m/s")} in the duct`, out ? "pre-filter out" : ""],
    fieldsOf({ ductSpeedMps, prefilter: out ? "out" : undefined }),
    missingOf({ [`how many ${line.unit("m/s")}`]: ductSpeedMps }),
    { empty: "duct airflow exhaust" },
  );
};

/** The watts that belong to a place: right after its name, with small words between; else right before it. */
function wattsBeside(line: Line, [from, to]: readonly [number, number]): number | undefined {
  const small = new Set(["is", "was", "at", "reads", "shows", "after", "behind", "the", "has"]);
  // Who begins with a figure tells the place after it.
  const before = line.tokens[0]?.is === "figure";
  for (const step of before ? ([-1, 1] as const) : ([1, -1] as const)) {
    for (let i = step === 1 ? to : from - 1; ; i += step) {
      const t = line.tokens[i];
      if (t?.is === "word" && small.has(t.text)) continue;
      if (t?.is !== "figure" || t.used || (t.unit !== "W" && t.unit !== undefined)) break;
      t.used = true;
      return t.value;
    }
  }
  return undefined;
}

export const power: Rule = (line, v) => {
  const named = line.startsWith("power", "watts", "meter");
  if (!named && !line.hasUnit("W")) return undefined;
  const setPercent = line.figure("%") ?? 100;
  const metered = v.stations.filter((s) => s.isMetered);
  const readings: Fields = {};
  const said1: string[] = [];
  const alone: string[] = [];
  for (;;) {
    const place = line.name(metered);
    if (!place) break;
    const watts = wattsBeside(line, line.lastNamed);
    if (watts === undefined) {
      alone.push(place.label);
      continue;
    }
    readings[`power-${place.id}`] = said(watts);
    said1.push(`${said(watts)} W after ${place.label}`);
  }
  line.word({ after: 1, at: 1 });
  return understood(
    line,
    "power",
    "Watts",
    [...said1, `at ${said(setPercent)} %`],
    { setPercent: said(setPercent), ...readings },
    [...(said1.length > 0 ? [] : ["watts, and after which part"]), ...alone.map((label) => `the watts after ${label}`)],
    { empty: "power watts meter behind" },
  );
};

/** Words around a cut that say nothing of it. */
const CUT_EMPTY = "cut cuts cutting test usual job mm/s in/min";

/** A result of something that is no material of the list, or could be two of them. */
function unclear(line: Line, v: Vocabulary): Understood | undefined {
  const result = line.word(RESULTS);
  if (result === undefined || line.name(v.parts)) return undefined;
  return understood(line, "cut", "Cut", [RESULT_WORDS[result]], { result }, ["which material of your list, and its thickness"], {
    empty: CUT_EMPTY,
  });
}

/** Whether figures without units would fit what is usual better the other way round. */
function isTurnedRound(
  line: Line,
  m: SpokenMaterial,
  speed: number | undefined,
  percent: number | undefined,
  hasPercent: boolean,
): boolean {
  const usual = m.speedMmPerS ?? m.rungs[Math.floor(m.rungs.length / 2)];
  if (speed === undefined || speed <= 0 || usual === undefined) return false;
  const off = (a: number, b: number) => Math.abs(Math.log(a / b));
  // A speed that may be a power is compared with it as it was written.
  const asPower = line.asWritten(speed, "mm/s");
  if (percent !== undefined && percent > 0)
    return off(asPower, m.setPercent) + off(percent, line.asWritten(usual, "mm/s")) < off(speed, usual) + off(percent, m.setPercent);
  // One figure alone: it is a speed only where it lies nearer to the usual speed than to the usual power.
  return !hasPercent && off(asPower, m.setPercent) < off(speed, usual);
}

export const cut: Rule = (line, v) => {
  const material = materialOf(line, v);
  if (!material) return unclear(line, v);
  const long = line.hasUnit("h") && !line.hasUnit("min") ? (line.figure("h") as number) * 60 : undefined;
  const minutes = line.figure("min") ?? long;
  if (line.startsWith("job") || minutes !== undefined) {
    const dropped = line.word(RESULTS);
    const took = minutes ?? line.figure(undefined);
    return understood(
      line,
      "job",
      "Job",
      [material.label, took === undefined ? "" : `${said(took)} min of beam`, dropped ? RESULT_WORDS[dropped] : ""],
      fieldsOf({ materialId: material.id, minutes: took, dropped }),
      missingOf({ "how many minutes": took }),
      { empty: `${CUT_EMPTY} ran took beam fired` },
    );
  }
  const passes = line.figure("times");
  const result = line.word(RESULTS);
  // Speed comes first, power second, wherever their units do not say otherwise.
  const markedSpeed = line.figure("mm/s");
  const markedPercent = line.figure("%");
  const bareSpeed = markedSpeed === undefined ? line.bare("mm/s") : undefined;
  const barePercent = markedPercent === undefined ? line.figure(undefined) : undefined;
  const speed = markedSpeed ?? bareSpeed;
  const percent = markedPercent ?? barePercent ?? (speed === undefined ? undefined : material.setPercent);
  const doubtful = isTurnedRound(line, material, bareSpeed, barePercent, markedPercent !== undefined);
  if (speed === undefined && result === undefined) return undefined;
  const usual = speed === undefined ? material.speedMmPerS : speed;
  const setPercent = percent ?? (usual === undefined ? undefined : material.setPercent);
  const edge = line.word({ charred: "charred", char: "charred", brown: "brown" });
  return understood(
    line,
    "cut",
    "Cut",
    [
      material.label,
      usual === undefined ? "" : line.says(usual, "mm/s"),
      setPercent === undefined ? "" : `${said(setPercent)} %`,
      passes === undefined ? "" : `${said(passes)} passes`,
      result ? RESULT_WORDS[result] : "",
      edge ? `edge ${edge}` : "",
    ],
    fieldsOf({ materialId: material.id, speedMmPerS: usual, setPercent, result, passes, edge }),
    [
      ...missingOf({ "the speed": usual, "how it went": result }),
      ...(doubtful ? [`which figure is ${line.unit("mm/s")} and which is %: write the units`] : []),
    ],
    { empty: CUT_EMPTY },
  );
};

/** Words for what is seen of an optic, by the number of the grade. */
const gradeWords = (v: Vocabulary) =>
  Object.fromEntries([
    ...v.grades.map((g, i) => [g, i]),
    ["hazy", 1],
    ["filmy", 2],
    ["spot", 3],
    ["spotty", 3],
    ["cracked", 4],
    ["chipped", 4],
  ]) as Record<string, number>;
const holds = (line: Line, table: Readonly<Record<string, unknown>>) =>
  line.tokens.some((t) => t.is === "word" && Object.hasOwn(table, t.text));

export const grade: Rule = (line, v) => {
  const table = gradeWords(v);
  // What was seen and cleaned is a clean, with what was seen before it.
  const at = holds(line, table) && !holds(line, DONE);
  const place = at ? line.name(v.stations) : undefined;
  const index = place && line.word(table);
  if (!place || index === undefined) return undefined;
  const says = [`${place.label} ${v.grades[index]}`];
  return understood(line, "grade", "Look", says, { station: place.id, grade: String(index) }, onePart(line, v, place), {
    empty: "grade condition",
  });
};

export const service: Rule = (line, v) => {
  const part = line.name(v.parts);
  const what = part && line.word(DONE);
  if (!part || what === undefined) return undefined;
  const isSeen = (what === "cleaned" || what === "replaced") && v.stations.some((s) => s.id === part.id);
  const found = isSeen ? line.word(gradeWords(v)) : undefined;
  if (found !== undefined) line.word({ was: 1, found: 1, seen: 1, with: 1, had: 1 });
  const price = figureAfter(line, ["for", "price"]);
  const focalMm = what === "replaced" && part.id === "lens" ? line.measure("mm") : undefined;
  return understood(
    line,
    "service",
    part.label,
    [
      DONE_WORDS[what],
      found === undefined ? "" : `before that ${v.grades[found]}`,
      focalMm === undefined ? "" : `${line.says(focalMm, "mm")} focal length`,
      price === undefined ? "" : `for ${said(price)}`,
    ],
    fieldsOf({ part: part.id, what, found, focalMm, price: what === "replaced" ? price : undefined }),
    onePart(line, v, part),
    { empty: "focal length" },
  );
};
