/** The state of the machine along a round: what each step needs of it, what it leaves, and what an answer takes out of the rest of the round. */
import type { Grade } from "#core/beam";
import { type RoundAnswer, roundRecords } from "./answers";
import { brokenOnes } from "./broken";
import { allOf, type GivenGrade, gradesAfter } from "./standing";
import type { Step } from "./step";

type Answers = ReadonlyMap<string, RoundAnswer>;

const chosen = (step: Step, answers: Answers) => step.seen?.find((o) => o.id === answers.get(step.id)?.choice);

/** What keeps the rest of a round from being done as it was planned. */
export interface HeldBack {
  /** Stations that stay out of the machine. */
  readonly out: ReadonlySet<string>;
  /** Optics that must not be fired through, with their grade. */
  readonly broken: ReadonlyMap<string, Grade>;
  /** Answers that speak against firing, in the words they were given in. */
  readonly stops: readonly string[];
}

/** What the answers so far hold back; `before` are the grades that held when the round began. */
export function heldBack(steps: readonly Step[], answers: Answers, before: ReadonlyMap<string, GivenGrade> = new Map()): HeldBack {
  const out = new Set<string>();
  const stops: string[] = [];
  for (const step of steps) {
    const said = chosen(step, answers);
    if (said?.leavesOut !== undefined) out.add(said.leavesOut);
    if (said?.stops === "round") stops.push(`${step.title} ${said.label}`);
  }
  const grades = gradesAfter(before, roundRecords(steps, answers), (id) => steps.find((s) => s.id === id));
  for (const entry of grades.values())
    for (const given of allOf(entry)) if (given.stops && given.seen !== undefined) stops.push(given.seen);
  return { out, broken: brokenOnes(grades), stops };
}

/** Whether a step still makes sense: nothing is powered while a part is out or broken, nothing is fired after an answer against it. */
export function isLeft({ kind, needs, leaves }: Step, { out, broken, stops }: HeldBack): boolean {
  // The end of a round stays: what it asks for bends instead.
  if (kind === "proof") return true;
  if ([...(needs?.in ?? []), leaves?.back, leaves?.toward].some((part) => part !== undefined && out.has(part))) return false;
  if (out.size + broken.size > 0 && (needs?.power === "on" || leaves?.power === "on" || needs?.fires)) return false;
  return !(stops.length > 0 && needs?.fires);
}

/** A machine as a round finds it and changes it. */
export interface MachineNow {
  readonly power: "off" | "on";
  readonly out: ReadonlySet<string>;
  readonly limit: "usual" | "low";
  /** Something flammable has not dried yet. */
  readonly wet: boolean;
}

/** What a round that opens nothing begins with, and one that begins by making the machine safe. */
export const WHOLE: MachineNow = { power: "on", out: new Set(), limit: "usual", wet: false };

/** The machine after a step of a walk. */
export function after(now: MachineNow, { leaves, wet, timer, rinses }: Step, said?: { readonly leavesOut?: string }): MachineNow {
  const out = new Set(now.out);
  if (leaves?.out !== undefined) out.add(leaves.out);
  if (leaves?.back !== undefined) out.delete(leaves.back);
  if (said?.leavesOut !== undefined) out.add(said.leavesOut);
  return {
    power: leaves?.power ?? now.power,
    out,
    limit: leaves?.limit ?? now.limit,
    wet: timer?.name === "drying" || rinses === true ? false : now.wet || wet === true,
  };
}

/** What a step asks for that the machine is not, in words; empty where it fits. */
export function contradictions(now: MachineNow, { needs, leaves }: Step): string[] {
  const wrong: string[] = [];
  const want = (holds: boolean, words: string) => holds || wrong.push(words);
  if (needs?.power) want(needs.power === now.power, `wants the power ${needs.power}, it is ${now.power}`);
  for (const part of needs?.in ?? []) want(!now.out.has(part), `wants ${part} in, it is out`);
  for (const part of needs?.out ?? []) want(now.out.has(part), `wants ${part} out, it is in`);
  if (leaves?.out !== undefined) want(!now.out.has(leaves.out), `takes ${leaves.out} out, it is out already`);
  if (leaves?.back !== undefined) want(now.out.has(leaves.back), `puts ${leaves.back} back, it is in already`);
  if (needs?.limit) want(needs.limit === now.limit, `wants the power limit ${needs.limit}, it is ${now.limit}`);
  if (leaves?.power === "on" || needs?.fires) {
    want(now.out.size === 0, `is done with ${[...now.out].join(", ")} out`);
    want(!now.wet, "is done before what was wetted is dry");
  }
  if (needs?.fires) want(now.power === "on", "fires unplugged");
  return wrong;
}
