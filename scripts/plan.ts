/** `npm run -s plan -- instance.json`: the planner without interface or database. A wrong file is named on stderr, exit code 2. */
import { readFileSync } from "node:fs";
import { leastPlan, type PlanInstance, planSchema } from "#core/plan";
import { highsSolver } from "#services/plan/highs";
import { check } from "#store/check";

const SECONDS = 20;

function fail(words: string): never {
  process.stderr.write(`${words}\n`);
  process.exit(2);
}

function read(path: string): PlanInstance {
  let text: string;
  try {
    text = readFileSync(path, "utf8");
  } catch (error) {
    return fail(`${path}: ${(error as Error).message}`);
  }
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return fail(`${path}: ${(error as Error).message}`);
  }
  const checked = check(planSchema, value);
  if (!checked.ok)
    return fail(
      `${path}: ${Object.entries(checked.errors)
        .map(([at, words]) => `${at}: ${words}`)
        .join("; ")}`,
    );
  return value as PlanInstance;
}

const [path] = process.argv.slice(2);
if (path === undefined) fail("usage: npm run -s plan -- instance.json");
try {
  const { rounds, totalMinutes, late } = await leastPlan(read(path), await highsSolver(SECONDS));
  process.stdout.write(
    `${JSON.stringify({ rounds: rounds.map(({ date, minutes, tasks }) => ({ date, minutes, tasks })), totalMinutes, late }, undefined, 2)}\n`,
  );
} catch (error) {
  if (error instanceof RangeError) fail(`${path}: ${error.message}`);
  throw error;
}
