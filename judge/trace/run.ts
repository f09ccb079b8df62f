/** Runs a share of the machines of one layout through the policies; a process of its own, so that all cores are used. Prints JSON lines. */

import type { LayoutId } from "#core/machine";
import { ownWay } from "./engine";
import { cleanHeadFirst, walkFromTube } from "./fixed";
import { Oracle } from "./oracle";
import { knowAll, oracleWay } from "./oracleWay";
import { strangeWorld } from "./strange";
import { Case, LIMIT_MINUTES, type Spent, worldOf } from "./world";

export interface Judged {
  readonly layout: LayoutId;
  readonly seed: number;
  readonly faults: readonly string[];
  readonly mains: readonly string[];
  readonly policies: Readonly<Record<"head" | "walk" | "own" | "known", PolicyRun>>;
  /** An oracle's own way, of the machines it is asked of. */
  readonly oracle?: PolicyRun;
  readonly first?: {
    readonly repair: string;
    readonly plan: readonly string[];
    readonly stated: number;
    readonly asked: number;
    readonly right: boolean;
    /** What the oracle names from the same answers, and from an answer to everything. */
    readonly oracleSame?: boolean;
    readonly oracleAll?: boolean;
    readonly findings: string;
  };
  /** What Clenor's way took by what it was spent on, and its story. */
  readonly spent: Spent;
  readonly story: string;
  readonly again: number;
  readonly freeAfterTimed: boolean;
  readonly wattsAsked: number;
}
export interface PolicyRun {
  readonly minutes: number;
  /** The first repair mends what takes most; what takes most is gone after the first round, and after two. */
  readonly first: boolean;
  readonly oneRound: boolean;
  readonly twoRounds: boolean;
  readonly gaveUp: boolean;
  readonly needless: number;
  readonly dear: Case["dear"];
}

const [layout, from, to, particles, every, mistakes, faults, strange] = process.argv.slice(2);
const usual = worldOf(layout as LayoutId);
const oracle = Number(particles) > 0 ? new Oracle(usual, Number(particles), 77_001) : undefined;

/** Follows a case round by round while a policy works on it. */
function judged(c: Case, work: () => void): PolicyRun {
  const after: boolean[] = [];
  const round = c.round.bind(c);
  const brings = c.brings.bind(c);
  c.round = (...args) => {
    const proof = round(...args);
    after.push(c.mainMended);
    return proof;
  };
  c.brings = (found) => {
    const isBack = brings(found);
    if (isBack) after.push(c.mainMended);
    return isBack;
  };
  work();
  const firstRepair = c.rounds[0]?.[0];
  return {
    minutes: Math.min(LIMIT_MINUTES, c.minutes),
    first: firstRepair !== undefined && c.mainRepairs.has(firstRepair),
    oneRound: after[0] ?? false,
    twoRounds: after[1] ?? after[0] ?? false,
    gaveUp: c.minutes >= LIMIT_MINUTES,
    needless: c.needless.size,
    dear: c.dear,
  };
}

for (let seed = Number(from); seed < Number(to); seed++) {
  const world = strange === "true" ? strangeWorld(usual, seed) : usual;
  const head = new Case(world, seed, Number(mistakes));
  const walk = new Case(world, seed, Number(mistakes));
  const own = new Case(world, seed, Number(mistakes));
  const known = new Case(world, seed, Number(mistakes));
  const before = own.machine;
  let run: ReturnType<typeof ownWay> | undefined;
  const policies = {
    head: judged(head, () => cleanHeadFirst(head)),
    walk: judged(walk, () => walkFromTube(walk)),
    known: judged(known, () => knowAll(known)),
    own: judged(own, () => {
      run = ownWay(own, faults === "3" ? 3 : 2);
    }),
  };
  const f = run?.first;
  let oracles: { oracleSame?: boolean; oracleAll?: boolean } = {};
  let oracleRun: PolicyRun | undefined;
  // What can be told at all is told as well from every so manieth machine: weighing all simulated ones takes longer than all else.
  if (oracle && f && seed % Number(every) === 0) {
    const everything = new Case(world, seed, Number(mistakes));
    const all = world.model.checks.map((k) => everything.ask(k.id)).filter((x) => x !== undefined);
    oracles = {
      oracleSame: own.mainRepairs.has(oracle.best(before, f.findings)),
      oracleAll: own.mainRepairs.has(oracle.best(before, all)),
    };
    const by = oracle;
    const his = new Case(world, seed, Number(mistakes));
    oracleRun = judged(his, () => oracleWay(his, by));
  }
  const line: Judged = {
    layout: world.id,
    seed,
    faults: before.faults.map((x) => x.id),
    mains: [...own.mains],
    policies,
    ...(oracleRun ? { oracle: oracleRun } : {}),
    spent: own.spent,
    story: own.story.join(" "),
    again: run?.again ?? 0,
    freeAfterTimed: run?.freeAfterTimed ?? false,
    wattsAsked: run?.wattsAsked ?? 0,
    ...(f
      ? {
          first: {
            repair: f.repair,
            plan: f.plan,
            stated: f.stated,
            asked: f.asked,
            right: own.mainRepairs.has(f.repair),
            findings: f.findings.map((x) => `${x.check}=${x.outcome ?? x.value?.toFixed(2)}`).join(" "),
            ...oracles,
          },
        }
      : {}),
  };
  process.stdout.write(`${JSON.stringify(line)}\n`);
}
