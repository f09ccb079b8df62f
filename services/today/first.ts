/** The one thing to do first on a machine; all else that could be done is folded under it. */
import type { TraceCase } from "#store/cases";
import { answerView } from "../cases/answerView";
import type { Services } from "../context";
import { standingFindings } from "../machine/gather";
import type { Gathered } from "../machine/gathered";
import { planOf } from "../machine/plans";
import { lostWords } from "../machine/stateWords";
import { cutStopOf } from "../machine/stop";
import { type Unmended, unmendedOf } from "../machine/unmended";
import { neitherLeads } from "../outlook/outlookView";
import type { Offer } from "../rounds/offer";
import { lowerFirst, theStation, wholeMinutes } from "../words";

/** A part that may be done alone in the meantime. */
export interface Meanwhile {
  readonly label: string;
  readonly parts: readonly string[];
}

interface Common {
  readonly title: string;
  /** In minutes, as it is shown; undefined where it cannot be said. */
  readonly minutes?: string | undefined;
  readonly lines?: readonly string[];
}

export type First =
  | (Common & { readonly kind: "round"; readonly roundId: number })
  | (Common & { readonly kind: "start"; readonly label: string; readonly parts: readonly string[] })
  | (Common & { readonly kind: "case"; readonly caseId: number; readonly label: string; readonly meanwhile: Meanwhile | undefined })
  | (Common & {
      readonly kind: "go";
      readonly label: string;
      readonly to: string;
      readonly other?: { readonly label: string; readonly to: string };
    })
  | (Common & { readonly kind: "offer" })
  | (Common & { readonly kind: "nothing" });

/** What failed cuts in a row are, with a baseline: one may be chance. */
const TWO = 2;

export async function firstOf(services: Services, g: Gathered, offer: Offer, failedCuts: number): Promise<First> {
  if (g.openRound) return { kind: "round", title: `Go on with “${g.openRound.title}”`, roundId: g.openRound.id };
  const stop = cutStopOf(g);
  if (stop?.because === "turned-down") return { kind: "go", title: "Put the power limit back", label: "To Alignment", to: "aim" };
  const bad = unmendedOf(g);
  const replaced = bad.find((u) => u.isDone && u.replace !== undefined);
  if (stop && replaced?.replace !== undefined) return replaceFirst(g, replaced, replaced.replace);
  const openCase = g.openCases.at(-1);
  if (!stop && openCase) return caseFirst(services, g, openCase, bad);
  if (failedCuts >= (g.baseline ? TWO : 1) && !stop)
    return { kind: "go", title: "Find out why it does not cut through", label: "Find the cause", to: "trace" };
  // Outlook says the same: what is lost is no dirt, so a clean does not bring it back.
  const { condition } = g;
  if (!stop && condition && neitherLeads(condition))
    return {
      kind: "go",
      title: "Find out what takes the power",
      lines: [lostWords(condition)],
      label: "Find the cause",
      to: "trace",
    };
  if (!g.baseline && !stop && !offer.urged)
    return {
      kind: "go",
      title: "Does it cut well now?",
      minutes: "6",
      label: "It cuts well: cut a ladder now",
      to: "log?kind=ladder&baseline=1",
      other: { label: "Something is weak", to: "trace" },
    };
  if (offer.lines.length > 0) return { kind: "offer", title: offerTitle(g, offer, bad), minutes: wholeMinutes(offer.minutes) };
  return { kind: "nothing", title: "Nothing to do now" };
}

function replaceFirst(g: Gathered, part: Unmended, replace: string): First {
  const { minutes } = planOf(g.trade, [replace], { isRepair: true, grades: g.grades, out: g.out });
  return {
    kind: "start",
    title: /^M\d/.test(part.name) ? `Fit a new mirror for ${part.name}` : `Fit a new ${lowerFirst(part.name)}`,
    minutes: wholeMinutes(minutes),
    lines: [`${part.name}: ${part.word}, seen ${part.since}. Order one if there is no spare here.`],
    label: "Start the round that fits it",
    parts: [replace],
  };
}

/** The next step of a case: its round, or its next check with what each answer leads to. */
async function caseFirst(services: Services, g: Gathered, openCase: TraceCase, bad: readonly Unmended[]): Promise<First> {
  const view = await answerView(services, g, openCase, await standingFindings(services, openCase.id));
  const [next] = view.next;
  const clean = bad.find((u) => u.clean !== undefined);
  const meanwhile = clean?.clean === undefined ? undefined : onlyThis(g, clean, clean.clean);
  const common = { kind: "case", caseId: openCase.id, meanwhile } as const;
  if (view.isBehind)
    return { ...common, title: "Go on with the case", lines: ["Your last entry is being worked in."], label: "Go on with the case" };
  if (view.repair)
    return {
      ...common,
      title: `Next: ${view.repair.name}`,
      minutes: view.repair.minutes,
      lines: [view.repair.because],
      label: "Go on with the case",
    };
  if (!next) return { ...common, title: "Go on with the case", lines: [view.lead], label: "Go on with the case" };
  const lines = next.meanings.slice(0, MEANINGS).map((m) => `${m.outcome.charAt(0).toUpperCase()}${m.outcome.slice(1)}, next: ${m.means}.`);
  return { ...common, title: `Next: ${next.title}`, minutes: next.minutes, lines, label: "Go on with the case" };
}
const MEANINGS = 2;

const onlyThis = (g: Gathered, part: Unmended, clean: string): Meanwhile => ({
  label: `Only clean ${theStation(part.name)} now, ${wholeMinutes(planOf(g.trade, [clean], { grades: g.grades, out: g.out }).minutes)} min`,
  parts: [clean],
});

function offerTitle(g: Gathered, offer: Offer, bad: readonly Unmended[]): string {
  // What is broken is in no round but its own.
  if (cutStopOf(g)) return `When the new part is fitted: ${offer.neverGraded ? "a first round" : "one round"}`;
  if (offer.urged) return "One round does it";
  if (offer.neverGraded) return "Nothing was inspected here yet. A first round";
  if (offer.plannedFor !== undefined)
    return offer.anyDue || bad.length > 0 ? `Next round: ${offer.plannedFor}` : `Nothing to do before ${offer.plannedFor}`;
  return bad.length > 0 ? "Nothing else is urgent. Next in turn" : "Nothing is urgent. Next in turn";
}
