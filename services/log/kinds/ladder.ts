import { type Rung, readLadder } from "#core/cuts";
import type { FormReader } from "../../forms/fields";
import { readingOf } from "../../machine/ladders";
import { figureHere, unitHere, withUnit } from "../../units";
import { number, ratioWords } from "../../words";
import { rungsHere } from "../rungs";
import { type EventKindDefinition, idOf } from "./definition";
import { materialOf } from "./names";

const MOST_RUNGS = 24;

export const ladder: EventKindDefinition<"ladder"> = {
  name: "Ladder",
  says: (event, g) => {
    const { payload } = event;
    const effective = readingOf(g, event)?.effective;
    const tail = payload.baseline ? "the baseline, known good" : effective ? ratioWords(effective) : "";
    return `${materialOf(g, payload.materialId)} at ${number(payload.setPercent, 0)} %: ${ladderWords(payload.rungs)}; ${tail}`;
  },
  entry: {
    read: (reader) => ({
      materialId: idOf(reader.text("materialId")),
      setPercent: reader.number("setPercent", "%", "60"),
      rungs: readRungs(reader),
      baseline: reader.text("baseline") === "1" ? true : undefined,
    }),
    problem: ({ rungs, baseline }) => {
      const words = baseline ? noBaseline(rungs) : undefined;
      return words === undefined ? undefined : { errors: { rungs: words } };
    },
    typed: ({ rungs }) =>
      Object.fromEntries(
        rungs.flatMap((rung, i) => [
          [`speed-${i}`, number(rung.speedMmPerS, 2)],
          [`end-${i}`, rung.end],
        ]),
      ),
    errorAt: (path, message) => {
      const rung = /^rungs\.(\d+)\.speedMmPerS$/.exec(path);
      return rung ? ["rungs", `Rung ${Number(rung[1]) + 1}: the speed ${message.charAt(0).toLowerCase()}${message.slice(1)}`] : undefined;
    },
  },
};

function ladderWords(rungs: readonly Rung[]): string {
  const read = readLadder(rungs);
  switch (read.kind) {
    case "estimate":
      if (!rungs.some((r) => r.end === "dropped")) return `hangs at ${withUnit(read.v50, "mm/s")}, nothing dropped`;
      return `drops to ${withUnit(read.v50, "mm/s")}${read.outOfOrder ? "; out of order, worth another one" : ""}`;
    case "at-least":
      return `drops at least to ${withUnit(read.speedMmPerS, "mm/s")}, the fastest ${rungs.length === 1 ? "and only " : ""}rung`;
    case "at-most":
      return `stays at ${withUnit(read.speedMmPerS, "mm/s")}, the slowest ${rungs.length === 1 ? "and only " : ""}rung`;
    case "none":
      return read.reason;
  }
}

/** Why a ladder cannot be what all others are measured by: it must show where dropping ends. */
function noBaseline(rungs: readonly Rung[]): string | undefined {
  const dropped = rungs.filter((r) => r.end === "dropped").map((r) => r.speedMmPerS);
  const speeds = rungs.map((r) => r.speedMmPerS);
  const tried = (expected: number) =>
    rungsHere(expected, 4)
      .map((v) => figureHere(v, "mm/s"))
      .join(", ");
  if (dropped.length === 0)
    return `Nothing dropped, so this does not show where dropping ends. Cut slower rungs as well, for example ${tried(Math.min(...speeds) * 0.8)} ${unitHere("mm/s")}.`;
  if (dropped.length === rungs.length)
    return `Every rung dropped, so this does not show where dropping ends. Cut faster rungs as well, for example ${tried(Math.max(...speeds) * 1.2)} ${unitHere("mm/s")}.`;
  return undefined;
}

/** How each rung ended; `place` goes before its number where a form has several ladders. */
export function readRungs(reader: FormReader, place = ""): { speedMmPerS: number; end: string }[] {
  const rungs: { speedMmPerS: number; end: string }[] = [];
  for (let i = 0; i < MOST_RUNGS; i++) {
    const end = reader.text(`end-${place}${i}`);
    if (end === undefined) continue;
    const speed = reader.number(`speed-${place}${i}`, "mm/s", "12");
    if (speed !== undefined) rungs.push({ speedMmPerS: speed, end });
  }
  if (rungs.length === 0 && place === "") reader.errors.rungs ??= "Say of at least one rung how it ended: dropped, hangs or stays.";
  return rungs;
}
