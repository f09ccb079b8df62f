/**
 * The recipes of docs/extending.md, tried: something is added in memory where the recipe begins, and the compiler must ask for it in just the
 * files that the recipe names. A kind that could be forgotten somewhere, or a recipe that sends its reader to too few files, fails here.
 */
import { readFileSync } from "node:fs";
import { relative } from "node:path";
import ts from "typescript";
import { describe, expect, it } from "vitest";

/** What is added in which file, and after which of its words. */
const ADDED: readonly { readonly file: string; readonly after: string; readonly text: string }[] = [
  { file: "core/machine/layoutIds.ts", after: "LAYOUT_IDS = [", text: '"two-mirror", ' },
  { file: "core/beam/roles.ts", after: "STATION_ROLES = [", text: '"expander", ' },
  { file: "core/events/schemas.ts", after: "eventSchemas = {", text: " belt: noteSchema," },
  { file: "core/events/schemas.ts", after: "interface EventPayload {", text: " belt: FromSchema<typeof noteSchema>;" },
];
/** Where something may have to be filled in; the screens, and the weight of their parts' types, are left out. */
const ROOMS = /^(core|catalog|store|services)\//;

const recipes = new Map(
  readFileSync("docs/extending.md", "utf8")
    .split(/^## /m)
    .map((part) => [part.slice(0, part.indexOf("\n")), part]),
);

/** Files of the sentence in which the compiler asks. */
function promised(recipe: string): string[] {
  const sentence = /The compiler asks[\s\S]*?\.(?=\n)/.exec(recipes.get(recipe) ?? "")?.[0] ?? "";
  return [...sentence.matchAll(/`([a-z][\w/]*\.ts)`/g)].map((m) => m[1] as string).sort();
}

/** What the compiler says of all rooms once the additions are made. */
function complaints(): { readonly file: string; readonly words: string }[] {
  const { options, fileNames } = ts.parseJsonConfigFileContent(
    ts.readConfigFile("tsconfig.json", ts.sys.readFile).config,
    ts.sys,
    process.cwd(),
  );
  const here = (path: string) => relative(process.cwd(), path);
  const changed = new Map<string, string>();
  for (const { file, after, text } of ADDED) {
    const before = changed.get(file) ?? readFileSync(file, "utf8");
    if (!before.includes(after)) throw new Error(`${file} has no ${after}`);
    changed.set(file, before.replace(after, `${after}${text}`));
  }
  const host = ts.createCompilerHost(options);
  const read = host.readFile.bind(host);
  host.readFile = (path) => changed.get(here(path)) ?? read(path);
  const { tsBuildInfoFile: _, incremental: __, ...alone } = options;
  const roots = fileNames.filter((f) => ROOMS.test(here(f)) && !f.includes(".test."));
  return ts
    .createProgram(roots, alone, host)
    .getSemanticDiagnostics()
    .map((d) => ({ file: here(d.file?.fileName ?? ""), words: ts.flattenDiagnosticMessageText(d.messageText, " ") }));
}

describe("what the compiler asks for is what the recipe names", () => {
  const said = complaints();
  const asking = (what: RegExp) => [...new Set(said.filter((c) => what.test(c.words)).map((c) => c.file))].sort();

  it("of a layout", () => {
    expect(asking(/'"two-mirror"' is missing/)).toEqual(promised("A layout"));
  });

  it("of a station role", () => {
    expect(asking(/'expander' is missing|"expander"|lacks ending return/)).toEqual(promised("A station role"));
  });

  it("of an event kind", () => {
    expect(asking(/'belt' is missing/)).toEqual(promised("An event kind"));
  });
});
