/** Nothing is kept as other than it was told: whole sentences, as owners write them. */
import { describe, expect, it } from "vitest";
import { understand } from ".";
import { askedSentences, understoodSentences, vocabulary } from "./corpus.fixture";

const kept = (text: string) => {
  const found = understand(text, vocabulary);
  return found && found.missing.length === 0 ? found : undefined;
};

describe("four hundred sentences", () => {
  it("are all different", () => {
    const all = [...understoodSentences.map(([text]) => text), ...askedSentences];
    expect(all.length).toBeGreaterThanOrEqual(400);
    expect(new Set(all).size).toBe(all.length);
  });

  it("are never kept as other than they say: what is plain is understood, in any case and with any full stop", () => {
    const wrong = understoodSentences.flatMap(([text, kind, fields]) => {
      const found = kept(text);
      if (!found) return [`${text}: not understood, ${understand(text, vocabulary)?.missing.join("; ") ?? "not at all"}`];
      const differs = Object.entries(fields).filter(([name, value]) => found.fields[name]?.toLowerCase() !== value.toLowerCase());
      return found.kind === kind && differs.length === 0 ? [] : [`${text}: ${found.kind} ${JSON.stringify(found.fields)}`];
    });
    expect(wrong).toEqual([]);
  });

  it("are asked about wherever a word, a sign or a figure could turn them round", () => {
    expect(askedSentences.flatMap((text) => (kept(text) ? [`${text}: ${kept(text)?.says}`] : []))).toEqual([]);
  });

  it("stay asked about with a plain half before or after: no doubt is lost among what is clear", () => {
    const doubts = ["not", "maybe", "almost", "should", "yesterday", "without", "again", "except the corner", "?"];
    const lost = understoodSentences.flatMap(([text, kind]) =>
      kind === "note"
        ? []
        : doubts.flatMap((d) => [`${text} ${d}`, `${d} ${text}`].flatMap((t) => (kept(t) ? [`${t}: ${kept(t)?.says}`] : []))),
    );
    // "Without filter" is a word of the duct's own.
    expect(lost.filter((line) => !/^(duct|exhaust|.*duct|.*exhaust)[^:]*without/i.test(line))).toEqual([]);
  });
});
