/** What the documents name is there: a recipe that sends its reader to a file that has moved is no recipe. */
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { describe, expect, it } from "vitest";

const FOLDERS = "app|catalog|core|deploy|devices|docs|e2e|judge|public|scripts|services|store|workers";
const documents = [
  "README.md",
  "CONTRIBUTING.md",
  "SECURITY.md",
  ...readdirSync("docs")
    .filter((f) => f.endsWith(".md"))
    .map((f) => `docs/${f}`),
];
const scripts = (JSON.parse(readFileSync("package.json", "utf8")) as { scripts: Readonly<Record<string, string>> }).scripts;

describe.each(documents)("%s", (document) => {
  const text = readFileSync(document, "utf8");

  it("names files that are there", () => {
    const named = [...text.matchAll(new RegExp(`\`((?:${FOLDERS})/[\\w./@-]+)\``, "g"))].map((m) => m[1] as string);
    expect(named.filter((path) => !existsSync(path) && !existsSync(`${path}.ts`))).toEqual([]);
  });

  it("links to what is there", () => {
    const linked = [...text.matchAll(/\]\(([^)#\s]+)\)/g)].map((m) => m[1] as string).filter((to) => !/^https?:/.test(to));
    expect(linked.filter((to) => !existsSync(join(dirname(document), to)))).toEqual([]);
  });

  it("names commands that are there", () => {
    const named = [...text.matchAll(/npm run (?:-s )?([a-z][\w:-]*)/g)].map((m) => m[1] as string);
    expect(named.filter((name) => scripts[name] === undefined)).toEqual([]);
  });
});
