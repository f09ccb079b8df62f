/** View model of a round on paper: of one that was started, or of parts as they would be done. */
import { GRADES } from "#core/beam";
import { isOptic, type Step, WEAR_GRADES } from "#core/rounds";
import { findRound } from "#store/rounds";
import type { Services } from "../context";
import { recordId } from "../forms/fields";
import type { Gathered } from "../machine/gathered";
import { planOf, planOfRound, titleOf } from "../machine/plans";
import { NotHere } from "../refusal";
import { dayAndTime, wholeMinutes } from "../words";
import { validParts } from "./scopes";

/** `search` of the page: `round` by id, or `part`s with `title` and `order`. Throws NotHere. */
export async function sheetView(services: Services, g: Gathered, search: URLSearchParams) {
  const roundId = recordId(search.get("round"));
  const round = roundId !== undefined ? await findRound(services.store, g.machine.id, roundId) : undefined;
  const parts = round ? undefined : validParts(g.trade, search.getAll("part"));
  if (!round && !parts) throw new NotHere("This sheet names no round and no parts of this machine.");
  const order = search.get("order") === "tube-first" ? "tube-first" : "head-first";
  const plan = round ? planOfRound(g.trade, round) : planOf(g.trade, parts ?? [], { direction: order, grades: g.grades, out: g.out });
  return {
    slug: g.machine.slug,
    machine: g.machine.name,
    title: (round?.title ?? search.get("title") ?? titleOf(g.trade, parts ?? [])).slice(0, 80),
    day: dayAndTime(g.nowMs),
    minutes: wholeMinutes(plan.minutes),
    fetch: plan.fetch,
    steps: plan.steps.map((s) => ({
      id: s.id,
      part: s.part,
      title: s.title,
      text: s.text,
      caution: s.caution,
      tick: s.tick,
      agents: s.agents,
      refused: s.refused,
      // What is done by turns has one heading, and each its own name.
      onlyIf: onlyIf(s, plan.steps, (asked) => g.trade.layout.path.find((p) => p.id === asked.station)?.name ?? asked.part),
      /** What may be said there, in the words the screen has for it. */
      answers: answersOf(s),
    })),
    back: round ? `/${g.machine.slug}/round/${round.id}` : `/${g.machine.slug}/round`,
  };
}

const isOwnGrades = (s: Step) => s.station === undefined || isOptic(s.station);

/** The answers of a step on paper: grades in the words of what is graded, or its own choices. */
function answersOf(s: Step): readonly string[] {
  const grades = s.kind === "grade" ? (isOwnGrades(s) ? GRADES : WEAR_GRADES) : [];
  return [...grades, ...(s.seen ?? []).map((o) => o.label), ...(s.unseen ? [s.unseen] : []), ...(s.anyway ? [s.anyway] : [])];
}

/** What has to be answered for a step to be done, as it stands at its box; undefined for one that is always done. */
function onlyIf(step: Step, steps: readonly Step[], nameOf: (step: Step) => string): string | undefined {
  if (!step.when) return undefined;
  const words = step.when.flatMap((need) => {
    const asked = steps.find((s) => s.id === need.step);
    if (!asked) return [];
    const scale = isOwnGrades(asked) ? GRADES : WEAR_GRADES;
    const [first, last] = need.grades ?? [1, 0];
    const grades = scale.slice(first, last + 1);
    const said = (need.said ?? []).flatMap(
      (id) => asked.seen?.find((o) => o.id === id)?.label ?? (id === "anyway" ? asked.anyway : undefined) ?? [],
    );
    const range = grades.length > 2 ? `${grades[0]} to ${grades.at(-1)}` : grades.join(" or ");
    return [`${nameOf(asked)} is ${[range, ...said.map((l) => `“${l}”`)].filter(Boolean).join(" or ")}`];
  });
  return words.length === 0 ? undefined : `Only if ${[...new Set(words)].join(", or ")}`;
}
