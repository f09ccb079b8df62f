import { readdirSync, readFileSync } from "node:fs";
import { expect, it } from "vitest";

it("what is kept of a store is kept in one place, which is emptied when records are replaced", () => {
  const files = ["store", "services", "app", "workers"].flatMap((root) =>
    (readdirSync(root, { recursive: true }) as string[])
      .filter((f) => /\.tsx?$/.test(f) && !f.includes(".test."))
      .map((f) => `${root}/${f}`),
  );
  const keepers = files.filter((f) => /Map<\s*Store\b/.test(readFileSync(f, "utf8")));
  // The counters of changes go on whatever is replaced: they say that something was.
  expect(keepers.sort()).toEqual(["store/database.ts", "store/kept.ts"]);
});
