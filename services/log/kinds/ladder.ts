import { type LadderResult, readLadder } from "#core/cuts";
import type { FormReader } from "../../forms/fields";
import { readingOf } from "../../machine/ladders";
import { number, ratioWords } from "../../words";
import { type EventKindDefinition, idOf } from "./definition";
import { materialOf } from "./names";

const MOST_RUNGS = 24;

export const ladder: EventKindDefinition<"ladder"> = {
  name: "Ladder",
  says: (event, g) => {
    const { payload } = event;
    const effective = readingOf(g, event)?.effective;
    const tail = payload.baseline ? "the baseline, known good" : effective ? ratioWords(effective) : "";
    return `${materialOf(g, payload.materialId)} at ${number(payload.setPercent, 0)} %: ${ladderWords(readLadder(payload.rungs))}; ${tail}`;
  },
  entry: {
    read: (reader) => ({
      materialId: idOf(reader.text("materialId")),
      setPercent: reader.number("setPercent", "%", "60"),
      rungs: readRungs(reader),
      baseline: reader.text("baseline") === "1" ? true : undefined,
    }),
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

function ladderWords(read: LadderResult): string {
  switch (read.kind) {
    case "estimate":
      return `drops to ${number(read.v50)} mm/s${read.outOfOrder ? "; out of order, worth another one" : ""}`;
    case "at-least":
      return `all dropped up to ${number(read.speedMmPerS)} mm/s`;
    case "at-most":
      return `none dropped from ${number(read.speedMmPerS)} mm/s`;
    case "none":
      return read.reason;
  }
}

function readRungs(reader: FormReader): { speedMmPerS: number; end: string }[] {
  const rungs: { speedMmPerS: number; end: string }[] = [];
  for (let i = 0; i < MOST_RUNGS; i++) {
    const end = reader.text(`end-${i}`);
    if (end === undefined) continue;
    const speed = reader.number(`speed-${i}`, "mm/s", "12");
    if (speed !== undefined) rungs.push({ speedMmPerS: speed, end });
  }
  if (rungs.length === 0) reader.errors.rungs ??= "Say of at least one rung how it ended: dropped, hangs or stays.";
  return rungs;
}
