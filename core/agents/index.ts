/**
 * # What may touch what
 * Answers: may this agent be used on this surface, and may these two agents meet? A checked matrix of the trade's knowledge: what it
 * does not name is not known, which is no refusal, and no step asks for it. Mixtures follow from what the agents contain.
 */
export const INGREDIENTS = [
  "alcohol",
  "acetone",
  "acid",
  "ammonia",
  "amine",
  "hypochlorite",
  "alkali",
  "soap",
  "glycol",
  "oil",
  "propellant",
  "solvent",
] as const;
export type Ingredient = (typeof INGREDIENTS)[number];

export interface Agent {
  readonly id: string;
  readonly name: string;
  readonly kind: "liquid" | "cloth" | "air" | "tool" | "lubricant" | "powder";
  readonly contains: readonly Ingredient[];
  readonly flammable?: boolean;
  /** Other words for it, for whoever looks for it. */
  readonly aliases?: readonly string[];
  /** Said wherever it is used. */
  readonly care?: string;
  /** What is worn with it: it is fetched before the round, not only warned of. */
  readonly gear?: readonly string[];
  /** Put on a surface and rinsed off again: between two of these stands a full rinse, whatever they contain. */
  readonly wash?: boolean;
}

/** Agents of one surface. What is in none of the lists is not known. */
export interface Surface {
  readonly id: string;
  readonly name: string;
  readonly allowed: Readonly<Record<string, string>>;
  /** Condition under which an agent may be used, by agent. */
  readonly onlyIf: Readonly<Record<string, AgentCondition>>;
  readonly never: Readonly<Record<string, string>>;
}

export interface AgentCondition {
  /** What must be so, for a step to claim it: `lens-out`, `maker-allows`, `patch-tested`, `outdoors`. */
  readonly needs: string;
  readonly because: string;
}

/** Two ingredients that must not meet, not even one after the other without a full rinse. */
export interface MixRule {
  readonly a: Ingredient;
  readonly b: Ingredient;
  readonly because: string;
}

export interface Matrix {
  readonly agents: readonly Agent[];
  readonly surfaces: readonly Surface[];
  readonly mixes: readonly MixRule[];
}

export type Verdict = "allowed" | "only-if" | "never" | "unknown";
export interface Ruling {
  readonly verdict: Verdict;
  readonly reason: string;
  /** For `only-if`: the condition's id. */
  readonly needs?: string;
}

const agentOf = (matrix: Matrix, id: string): Agent => {
  const agent = matrix.agents.find((a) => a.id === id);
  if (!agent) throw new RangeError(`no agent ${id}`);
  return agent;
};

/** Whether an agent may touch a surface. Throws RangeError for an agent or a surface the matrix does not know. */
export function mayUse(matrix: Matrix, surfaceId: string, agentId: string): Ruling {
  const agent = agentOf(matrix, agentId);
  const surface = matrix.surfaces.find((s) => s.id === surfaceId);
  if (!surface) throw new RangeError(`no surface ${surfaceId}`);
  const refused = surface.never[agentId];
  if (refused !== undefined) return { verdict: "never", reason: refused };
  const condition = surface.onlyIf[agentId];
  if (condition) return { verdict: "only-if", reason: condition.because, needs: condition.needs };
  const how = surface.allowed[agentId];
  if (how !== undefined) return { verdict: "allowed", reason: how };
  return {
    verdict: "unknown",
    reason: `Nothing is known here of ${agent.name} on ${surface.name}. Ask the maker of the part, or take what is listed.`,
  };
}

/** Whether an agent may follow another on one surface without a full rinse between. */
export function mayFollow(matrix: Matrix, before: string, next: string): Ruling {
  const first = agentOf(matrix, before);
  const second = agentOf(matrix, next);
  if (before !== next && first.wash && second.wash)
    return { verdict: "never", reason: `Rinse ${first.name} off completely before ${second.name} goes on.` };
  return mayMix(matrix, before, next);
}

/** Whether two agents may meet, in a bucket or one after the other on one part. */
export function mayMix(matrix: Matrix, a: string, b: string): Ruling {
  const first = agentOf(matrix, a);
  const second = agentOf(matrix, b);
  if (a === b) return { verdict: "allowed", reason: "It is the same." };
  const clash = matrix.mixes.find(
    (m) =>
      (first.contains.includes(m.a) && second.contains.includes(m.b)) || (first.contains.includes(m.b) && second.contains.includes(m.a)),
  );
  if (clash) return { verdict: "never", reason: `${clash.because} Not one after the other either, without a full rinse between.` };
  if (first.flammable || second.flammable) {
    return {
      verdict: "only-if",
      needs: "dry-before-power",
      reason: "They do not react, but one of them burns: machine unplugged, no flame near, and ten minutes to dry before power.",
    };
  }
  return { verdict: "allowed", reason: "Nothing is known against these two." };
}
