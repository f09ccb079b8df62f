/**
 * `npm run loosen`: takes the transaction away from each place that opens one, one after the other, and runs the tests that look at what is
 * left of an action that fails. A place whose loss nobody notices writes one row, or stands inside another's; anything else is a test that is
 * missing. Changes files while it runs and puts each back: run it in a clone.
 */
import { spawnSync } from "node:child_process";
import { readdirSync, readFileSync, writeFileSync } from "node:fs";

const TESTS = ["services/torn.test.ts", "services/rounds/close.test.ts", "services/exchange", "store", "app/server/door.test.ts"];
const LOOSE = "\nconst loosened = <T>(store: Store, work: (tx: Store) => Promise<T>): Promise<T> => work(store);\n";

const files = ["services", "store", "app/server"].flatMap((root) =>
  (readdirSync(root, { recursive: true }) as string[])
    .map((name) => `${root}/${name}`)
    .filter((name) => name.endsWith(".ts") && !/\.test\.ts$|testWorkshop|store\/database\.ts$/.test(name)),
);

const passes = (): boolean => spawnSync("npx", ["vitest", "run", "--bail=1", ...TESTS], { stdio: "ignore" }).status === 0;
if (!passes()) throw new Error("the tests fail before anything is changed");

let unnoticed = 0;
for (const file of files) {
  const text = readFileSync(file, "utf8");
  const calls = [...text.matchAll(/(?<![\w.])atOnce\(/g)].map((m) => m.index);
  for (const at of calls) {
    const line = text.slice(0, at).split("\n").length;
    writeFileSync(file, text.slice(0, at) + text.slice(at).replace("atOnce(", "loosened(") + LOOSE);
    try {
      const isNoticed = !passes();
      if (!isNoticed) unnoticed += 1;
      process.stdout.write(`${isNoticed ? "noticed  " : "UNNOTICED"}  ${file}:${line}\n`);
    } finally {
      writeFileSync(file, text);
    }
  }
}
process.stdout.write(`${unnoticed} unnoticed\n`);
