/** One line of text as figures with their units and words, each taken at most once. */

/** Units as people type them, and what they stand for. */
const UNITS: Readonly<Record<string, Unit>> = {
  "mm/s": "mm/s",
  mms: "mm/s",
  mm: "mm",
  "%": "%",
  min: "min",
  mins: "min",
  minutes: "min",
  minute: "min",
  h: "h",
  hr: "h",
  hrs: "h",
  hours: "h",
  hour: "h",
  w: "W",
  watts: "W",
  watt: "W",
  ma: "mA",
  "°c": "°C",
  "°": "°C",
  c: "°C",
  "l/min": "L/min",
  lpm: "L/min",
  l: "L",
  litres: "L",
  litre: "L",
  "m/s": "m/s",
  x: "times",
  passes: "times",
  pass: "times",
};
export type Unit = "mm/s" | "mm" | "%" | "min" | "h" | "W" | "mA" | "°C" | "L/min" | "L" | "m/s" | "times";

export type Token =
  | { readonly is: "figure"; readonly value: number; readonly unit: Unit | undefined; used: boolean }
  | { readonly is: "word"; readonly text: string; readonly shown: string; used: boolean };

/** A figure, a decimal comma allowed, with what follows it without a gap; or a word. */
const PIECE = /([+-]?\d+(?:[.,]\d+)?)(%|°c?|[a-z]+(?:\/[a-z]+)?)?|(%|°c|[\p{L}][\p{L}\p{N}'/-]*)/giu;

export class Line {
  readonly tokens: readonly Token[];

  constructor(readonly text: string) {
    const tokens: Token[] = [];
    // A range of figures is a list of two: 8-15 and 8..15.
    const plain = text.replace(/(\d)(?:\s*\.\.+\s*|\s*–\s*|-|\s+-\s+)(?=\d)/g, "$1 to ");
    for (const [, figure, stuck, word] of plain.matchAll(PIECE)) {
      if (figure !== undefined) {
        const unit = stuck === undefined ? undefined : UNITS[stuck.toLowerCase()];
        // "m3" never comes here; "3rd" is a word that begins with a figure.
        tokens.push({ is: "figure", value: Number(figure.replace(",", ".")), unit, used: false });
        if (stuck !== undefined && unit === undefined) tokens.push({ is: "word", text: stuck.toLowerCase(), shown: stuck, used: false });
        continue;
      }
      const last = tokens.at(-1);
      const unit = UNITS[word?.toLowerCase() ?? ""];
      if (unit !== undefined && last?.is === "figure" && last.unit === undefined) tokens[tokens.length - 1] = { ...last, unit };
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
        return item;
      }
    }
    return undefined;
  }

  /** What nothing has taken, as it was typed. */
  rest(): string {
    return this.tokens
      .filter((t) => !t.used)
      .map((t) => (t.is === "word" ? t.shown : `${t.value}${t.unit === undefined ? "" : ` ${t.unit}`}`))
      .join(" ");
  }
}
