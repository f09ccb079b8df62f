/** One line of text as figures with their units and words, each taken at most once. */

import { inShown, inUnit, METRIC, shownFigure, shownUnit, type Units } from "#core/units";
import { said } from "./vocabulary";

/** Units that figures are kept in. */
export type Unit = "mm/s" | "mm" | "%" | "min" | "h" | "W" | "mA" | "°C" | "L/min" | "L" | "m/s" | "times";

/** A unit as people type it: what it stands for, and what makes one of the other. */
interface Spelling {
  readonly unit: Unit;
  readonly factor?: number;
  readonly offset?: number;
}

const spelt = (unit: Unit, spellings: string, factor?: number, offset?: number): Record<string, Spelling> =>
  Object.fromEntries(spellings.split(" ").map((word) => [word, { unit, ...(factor ? { factor } : {}), ...(offset ? { offset } : {}) }]));

const UNITS: Readonly<Record<string, Spelling>> = {
  ...spelt("mm/s", "mm/s mms mm/sec"),
  ...spelt("mm/s", "mm/min", 1 / 60),
  ...spelt("mm/s", "in/s ips", 25.4),
  ...spelt("mm/s", "in/min ipm", 25.4 / 60),
  ...spelt("mm", "mm millimetres millimeters"),
  ...spelt("mm", "cm", 10),
  ...spelt("mm", "in inch inches", 25.4),
  ...spelt("%", "% percent pct"),
  ...spelt("min", "min mins minutes minute"),
  ...spelt("min", "sec secs seconds", 1 / 60),
  ...spelt("h", "h hr hrs hours hour"),
  ...spelt("W", "w watts watt"),
  ...spelt("W", "kw", 1000),
  ...spelt("mA", "ma milliamps"),
  ...spelt("°C", "°c ° c celsius"),
  ...spelt("°C", "°f f fahrenheit", 5 / 9, -32),
  ...spelt("L/min", "l/min lpm"),
  ...spelt("L/min", "gal/min gpm", 3.785411784),
  ...spelt("L", "l litres litre liters liter"),
  ...spelt("L", "ml", 0.001),
  ...spelt("L", "gal gallons gallon", 3.785411784),
  ...spelt("m/s", "m/s"),
  ...spelt("m/s", "ft/min fpm", 0.3048 / 60),
  ...spelt("times", "x times passes pass"),
};

/** A figure in the unit it is kept in, to no more digits than it was told with. */
const converted = (value: number, { factor = 1, offset = 0 }: Spelling): number =>
  factor === 1 && offset === 0 ? value : Number(((value + offset) * factor).toPrecision(6));

export type Token =
  | {
      readonly is: "figure";
      readonly value: number;
      readonly unit: Unit | undefined;
      readonly shown: string;
      /** The kind of unit it was told in, where its figure is a nominal one. */
      readonly typed?: "inch" | undefined;
      used: boolean;
    }
  | { readonly is: "word"; readonly text: string; readonly shown: string; used: boolean };

/** A figure, a decimal comma allowed, with what follows it without a gap; or a word. */
const PIECE = /([+-]?\d+(?:[.,]\d+)?)(%|°[cf]?|[a-z]+(?:\/[a-z]+)?)?|(%|°[cf]|[\p{L}][\p{L}\p{N}'/-]*)/giu;

/** Signs that make a figure another one, or a question of the line: what they mean is asked, never guessed. */
const DOUBTFUL: readonly (readonly [RegExp, string])[] = [
  [/\?/, "the question mark"],
  [/[~≈±<>≤≥]/, "the sign before the figure: an exact one is kept"],
  [/\d,\d{3}(?!\d)/, "the comma: write thousands without it"],
  [/\d['’]\d{3}/, "the mark in the figure: write thousands without it"],
  [/\d\s*:\s*\d/, "the time of day: choose it in the form below"],
  [/\d\s*\/\s*\d/, "the fraction: write it as a decimal"],
  [/[½¼¾⅛⅜⅝⅞]/, "the fraction: write it as a decimal"],
  [/\d["″]/, "the inch mark: write inch or mm"],
  [/\d\s+in\b(?!\/)/i, "“in”: write inch or mm, or leave it out"],
];

/** Inches as they are written: a fraction before an inch is a decimal, and "in" behind a decimal is an inch where inches are read. */
function inchesWritten(text: string, units: Units): string {
  const mark = String.raw`\s*(?:inch(?:es)?\b|in\b(?!\/)|["″])`;
  const decimals = text
    .replace(
      new RegExp(String.raw`(\d+)\s+(\d+)\/([1-9]\d*)${mark}`, "gi"),
      (_, whole, a, b) => `${Number(whole) + Number(a) / Number(b)} inch`,
    )
    .replace(new RegExp(String.raw`(?<![\d.,/])(\d+)\/([1-9]\d*)${mark}`, "gi"), (_, a, b) => `${Number(a) / Number(b)} inch`);
  return units.length === "in" ? decimals.replace(/(?<![\d.,])(\d*[.,]\d+)\s*(?:in\b(?!\/)|["″])/gi, "$1 inch") : decimals;
}

const inch = (spelling: string | undefined): { typed?: "inch" } => (/^in(ch|ches)?$/i.test(spelling ?? "") ? { typed: "inch" } : {});

export class Line {
  readonly tokens: readonly Token[];
  /** What was told apart from the entry itself: in brackets, or after a semicolon. */
  readonly aside: string;
  /** Signs in it that nobody can be sure of, in words. */
  readonly doubts: readonly string[];

  /** Where the name that was taken last stands, from and up to. */
  lastNamed: readonly [number, number] = [0, 0];

  /** `units` are those the workshop reads: a figure without a unit is in them. */
  constructor(
    readonly text: string,
    private readonly units: Units = METRIC,
  ) {
    const straight = inchesWritten(text.replaceAll("’", "'").replace(/−(?=\d)/g, "-"), units);
    const [, told = straight, aside = ""] = /^(.*?)(?:\s*;\s*|\s+[–—]\s+|\s*\((?=[^)]*\)\s*$))(.*)$/s.exec(straight) ?? [];
    this.aside = aside.replace(/\)\s*$/, "").trim();
    this.doubts = DOUBTFUL.flatMap(([sign, words]) => (sign.test(straight) ? [words] : []));
    const tokens: Token[] = [];
    // A range of figures is a list of two: 8-15 and 8..15.
    const plain = told.replace(/(\d)(?:\s*\.\.+\s*|\s*–\s*|-|\s+-\s+)(?=\d)/g, "$1 to ");
    for (const [, figure, stuck, word] of plain.matchAll(PIECE)) {
      if (figure !== undefined) {
        const spelling = stuck === undefined ? undefined : UNITS[stuck.toLowerCase()];
        const value = Number(figure.replace(",", "."));
        const unit = spelling?.unit;
        // "m3" never comes here; "3rd" is a word that begins with a figure.
        tokens.push({
          is: "figure",
          value: spelling ? converted(value, spelling) : value,
          unit,
          shown: figure,
          ...inch(stuck),
          used: false,
        });
        if (stuck !== undefined && unit === undefined) tokens.push({ is: "word", text: stuck.toLowerCase(), shown: stuck, used: false });
        continue;
      }
      const last = tokens.at(-1);
      const spelling = UNITS[word?.toLowerCase() ?? ""];
      // "14 in acrylic" may be an inch or none.
      const isUnit = spelling !== undefined && last?.is === "figure" && last.unit === undefined && word?.toLowerCase() !== "in";
      if (isUnit && last?.is === "figure" && spelling)
        tokens[tokens.length - 1] = { ...last, unit: spelling.unit, value: converted(last.value, spelling), ...inch(word) };
      else tokens.push({ is: "word", text: (word as string).toLowerCase(), shown: word as string, used: false });
    }
    this.tokens = tokens;
  }

  /** Takes a figure of a unit; of any where none is given one without a unit. */
  figure(...units: readonly (Unit | undefined)[]): number | undefined {
    const found = this.tokens.find((t) => t.is === "figure" && !t.used && units.includes(t.unit));
    if (found?.is !== "figure") return undefined;
    found.used = true;
    return found.value;
  }

  /** A figure without a unit, taken as one of those this workshop reads. */
  bare(unit: Unit): number | undefined {
    const value = this.figure(undefined);
    return value === undefined ? undefined : this.fromWritten(value, unit);
  }

  /** A figure of a unit, or the first without one. */
  measure(unit: Unit): number | undefined {
    const found = this.tokens.find((t) => t.is === "figure" && !t.used && (t.unit === unit || t.unit === undefined));
    return found?.is === "figure" && found.unit === undefined ? this.bare(unit) : this.figure(unit);
  }

  /** The unit a kept one is read in here. */
  unit(kept: Unit): string {
    return shownUnit(kept, this.units);
  }

  fromWritten(value: number, kept: Unit): number {
    const unit = this.unit(kept);
    return unit === kept ? value : Number((inUnit(value, unit, kept) as number).toPrecision(6));
  }

  asWritten(value: number, kept: Unit): number {
    return inShown(value, kept, this.units);
  }

  /** A kept figure as this workshop reads it, without and with its unit. */
  saysBare(value: number, kept: Unit): string {
    return this.unit(kept) === kept ? said(value) : shownFigure(value, kept, this.units, 2);
  }
  says(value: number, kept: Unit): string {
    return `${this.saysBare(value, kept)} ${this.unit(kept)}`;
  }

  hasUnit(...units: readonly Unit[]): boolean {
    return this.tokens.some((t) => t.is === "figure" && !t.used && t.unit !== undefined && units.includes(t.unit));
  }

  /** Takes the first word that a table knows, and gives what it stands for. */
  word<T>(table: Readonly<Record<string, T>>): T | undefined {
    const found = this.tokens.find((t) => t.is === "word" && !t.used && Object.hasOwn(table, t.text));
    if (found?.is !== "word") return undefined;
    found.used = true;
    return table[found.text];
  }

  /** Takes the first word when it is one of some. */
  startsWith(...words: readonly string[]): boolean {
    const first = this.tokens[0];
    if (first?.is !== "word" || !words.includes(first.text)) return false;
    first.used = true;
    return true;
  }

  /** Takes the first name of one or several words that stand together; where several begin there, the longest. */
  name<T extends { readonly names: readonly string[] }>(list: readonly T[]): T | undefined {
    const all = list.flatMap((item) => item.names.map((name) => ({ item, words: name.toLowerCase().split(/\s+/) })));
    all.sort((a, b) => b.words.length - a.words.length);
    for (let i = 0; i < this.tokens.length; i++) {
      for (const { item, words } of all) {
        const here = this.tokens.slice(i, i + words.length);
        if (here.length < words.length || !here.every((t, k) => !t.used && t.is === "word" && t.text === words[k])) continue;
        for (const t of here) t.used = true;
        this.lastNamed = [i, i + words.length];
        return item;
      }
    }
    return undefined;
  }

  /** The first name that stands in what nothing has taken; takes nothing. */
  peekName<T extends { readonly names: readonly string[] }>(list: readonly T[]): T | undefined {
    const copy = new Line("", this.units);
    (copy as { tokens: readonly Token[] }).tokens = this.tokens.map((t) => ({ ...t }));
    return copy.name(list);
  }

  /** What nothing has taken, as it was typed. */
  rest(): string {
    return this.left()
      .map((t) => (t.is === "word" ? t.shown : `${t.shown}${t.unit === undefined ? "" : ` ${t.unit}`}`))
      .join(" ");
  }

  /** What nothing has taken. */
  left(): Token[] {
    return this.tokens.filter((t) => !t.used);
  }

  /** Whether a word stands anywhere in it. */
  has(...words: readonly string[]): boolean {
    return this.tokens.some((t) => t.is === "word" && words.includes(t.text));
  }
}
