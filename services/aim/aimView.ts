/** View model of Aim: the next mark or turn as one card, how each leg stands, the marks so far, and what is known of the screws. */

import {
  type AimAnswer,
  type AimStep,
  expectedAt,
  frameOf,
  gainOf,
  type LegAnswer,
  newestMarks,
  outdatedMarks,
  remembered,
  type Screw,
  type Spot,
  screwsOf,
  solve,
  spotId,
  spotsOf,
  turnWords,
} from "#core/aim";
import { mirrorNumberOf, parseId } from "#core/machine";
import { listFindings } from "#store/cases";
import { findingWords } from "../cases/words";
import type { Services } from "../context";
import type { Gathered, OpenCase } from "../machine/gathered";
import { stopOf } from "../machine/stop";
import { withUnit } from "../units";
import { number, sinceDay, theStation } from "../words";
import { type Aiming, aimingOf, caseFor } from "./sitting";
import { tapeMarks } from "./tapeMarks";
import { acrossWords, frameAt, isClosed, nameOf, placeWords, sidesAt, signed, spotWords, stepHeadline } from "./words";

/** `caseId` is the case one comes from, before a sitting is begun. */
export async function aimView(services: Services, g: Gathered, caseId?: number) {
  const aiming = await aimingOf(services, g);
  const openCase = caseFor(g, "problem" in aiming ? caseId : aiming.sitting ? aiming.sitting.caseId : caseId);
  const about = {
    slug: g.machine.slug,
    machine: g.machine.name,
    openCase: openCase && { id: openCase.id, number: openCase.number, title: openCase.title },
    openRound: g.openRound,
    /** Why nothing is fired now. */
    stop: stopOf(g),
  };
  if ("problem" in aiming) return { ...about, problem: aiming.problem, open: undefined, screws: [], fromLog: [], last: undefined };
  return {
    ...about,
    problem: undefined,
    open: aiming.sitting ? openView(g, aiming, await hintsOf(services, g, openCase)) : undefined,
    screws: screwsView(g, aiming),
    /** Marks of the log that a sitting can begin with. */
    fromLog: aiming.sitting ? [] : tapeMarks(g, aiming.path, aiming.last?.endedMs).map((m) => m.words),
    last:
      aiming.last?.endedMs === undefined
        ? undefined
        : { when: sinceDay(aiming.last.endedMs, g.nowMs), words: aiming.last.ending?.words ?? "" },
  };
}

/** What the open case says of the tape at each station: how far, though not which way. */
async function hintsOf(services: Services, g: Gathered, openCase: OpenCase | undefined): Promise<Map<string, string>> {
  const hints = new Map<string, string>();
  if (!openCase) return hints;
  for (const f of await listFindings(services.store, openCase.id)) {
    const { base, mirror: k } = parseId(f.check);
    if (!["tape", "tape-travel"].includes(base) || k === undefined || f.withdrawn) continue;
    const known = [hints.get(`mirror-${k}`), findingWords(g.trade, f)].filter(Boolean);
    hints.set(`mirror-${k}`, known.join("; "));
  }
  return hints;
}

/** A mark that lies this near to where it was has not moved, mm. */
const MOVED_MM = 0.25;

export type OpenAim = ReturnType<typeof openView>;

function openView(g: Gathered, aiming: Aiming, hints: ReadonlyMap<string, string>) {
  const { path, session } = aiming;
  const answer = solve(session);
  const newest = newestMarks(session.entries);
  const outdated = outdatedMarks(session);
  const lastMove = session.entries.findLastIndex((e) => e.kind === "turn" || e.kind === "shift" || e.kind === "opened");
  return {
    headline: answer.next.kind === "good" && !answer.goodEnough ? "Make the first mark." : stepHeadline(g.trade, path, answer.next),
    lead: leadOf(g, aiming, answer),
    step: stepView(g, aiming, answer.next, hints),
    ahead: answer.turns.slice(1).map((t) => ({
      words: `${nameOf(g.trade, t.element)}, screw ${t.screw}: ${turnWords(t.turns)}`,
      expected: t.expected.map((e) => ({ spot: spotWords(g.trade, path, e.spot), place: placeWords(e.mark) })),
    })),
    back: answer.back.map((t) => ({
      words: `${nameOf(g.trade, t.element)}, screw ${t.screw}: ${turnWords(t.turns)}`,
    })),
    legs: answer.legs.map((leg) => legView(g, aiming, leg)),
    marks: spotsOf(path).flatMap((spot) => {
      const made = newest.get(spotId(spot));
      if (!made) return [];
      const { right, up } = expectedAt(session.state, spot);
      return [
        {
          id: spotId(spot),
          spot: spotWords(g.trade, path, spot),
          place: placeWords(made.mark),
          now: outdated.has(spotId(spot))
            ? "no longer holds"
            : made.entry < lastMove && Math.hypot(made.mark.right - right.mean, made.mark.up - up.mean) > MOVED_MM
              ? `by now about ${placeWords({ right: right.mean, up: up.mean })}`
              : "",
        },
      ];
    }),
    surprises: session.surprises.map(
      (s) =>
        `${capital(spotWords(g.trade, path, s.spot))}: a mark lay ${withUnit(s.apartMm, "mm")} from where it was expected. Kept, but weighed less until another says the same.`,
    ),
    conflicts: session.trials
      .filter((t) => t.conflict)
      .map(
        (t) =>
          `${nameOf(g.trade, t.element)}, screw ${t.screw} moved the mark otherwise than before. From there on only what it did now counts.`,
      ),
    entries: aiming.entries.length,
    lastEntryId: aiming.entries.at(-1)?.id,
    /** How well the marks are read, once they tell. */
    readTo: aiming.entries.length > 5 ? `Your marks agree to about ${mmWords(aiming.session.readingSdMm)}.` : undefined,
    /** It could be ended here, though it could be finer. */
    today:
      answer.enoughForToday && !answer.goodEnough
        ? {
            minutes: number(answer.minutesToFine, 0),
            words: `Every mark surely lies within about ${withUnit(1, "mm")}. To make it fine takes about ${number(answer.minutesToFine, 0)} min more.`,
          }
        : undefined,
    residual: answer.residualMm === undefined ? undefined : number(answer.residualMm),
    good: answer.goodEnough,
    isTurned: session.entries.some((e) => e.kind === "turn"),
  };
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const mmWords = (mm: number) => (mm < 0.1 ? `under ${withUnit(0.1, "mm")}` : withUnit(mm, "mm"));
/** What the next step is for, as a sentence; of a turn, what the marks say. */
function leadOf(g: Gathered, aiming: Aiming, answer: AimAnswer): string {
  const { next } = answer;
  switch (next.kind) {
    case "mark":
      return {
        missing: "Nothing can be said of this leg before it.",
        "no-mark":
          "No mark came. Make sure that the pulse fired and that the tape covers the whole frame, then once more before anything is turned.",
        "after-turn": "One screw was turned: this mark tells what it did.",
        unsure: "The marks so far lie too near the line to tell. One more decides.",
        opened:
          "A part that the beam passes on its way there was out since its mark was made, so that mark no longer holds: once more on fresh tape.",
        "last-look": "Made before the last turn: once more on fresh tape, then this leg is done.",
      }[next.why];
    case "turn":
      if (next.isSearch)
        return "No mark came there: this turn looks for the beam. If the next pulse misses as well, say so, and the side if you saw it.";
      return offWords(g, aiming, answer, next.element, undefined);
    case "seat":
      if (next.isLost) return "Pulses leave no mark there: the beam does not reach it.";
      return offWords(g, aiming, answer, next.element, undefined);
    case "shift":
      return offWords(g, aiming, answer, undefined, next.station);
    case "vague":
      return `Your marks agree to about ${mmWords(aiming.session.readingSdMm)}: that is too coarse to tell whether they lie on one spot. A shorter pulse, flat fresh tape and printed rings make better marks.`;
    case "good":
      return answer.goodEnough
        ? `Every leg was looked at since the last turn${answer.residualMm === undefined ? "" : `; marks and sums differ by ${mmWords(answer.residualMm)}`}. A good state is better than a perfect one that ran away.`
        : "";
  }
}

function offWords(
  g: Gathered,
  { path, session }: Aiming,
  answer: AimAnswer,
  element: string | undefined,
  station: string | undefined,
): string {
  const leg = answer.legs.find((l) => l.element === element);
  if (leg && leg.aim === "parallel")
    return `Between near and far the mark at ${theStation(nameOf(g.trade, leg.endsAt))} moves ${acrossWords(frameAt(path, leg.endsAt), leg.apart)}; ${withUnit(leg.toleranceMm, "mm")} would do.`;
  const at = station ?? leg?.endsAt ?? "";
  const { right, up } = expectedAt(session.state, { at, far: [] });
  return `The beam meets ${theStation(nameOf(g.trade, at))} ${acrossWords(frameAt(path, at), { right: right.mean, up: up.mean })} off its middle. That is a matter of ${leg ? "its angle" : "place, not of screws"}.`;
}

/** Marks at the other spots of a station, where they are taken to lie by now. */
function othersAt(g: Gathered, path: Aiming["path"], session: Aiming["session"], spot: Spot) {
  const outdated = outdatedMarks(session);
  return [...newestMarks(session.entries).values()]
    .filter((m) => !outdated.has(spotId(m.spot)))
    .filter((m) => m.spot.at === spot.at && spotId(m.spot) !== spotId(spot))
    .map((m) => {
      const { right, up } = expectedAt(session.state, m.spot);
      return { right: right.mean, up: up.mean, words: spotWords(g.trade, path, m.spot) };
    });
}

/** What right and up are on the machine, where that is not what one would think. */
const seenWords = (sides: ReturnType<typeof sidesAt>) =>
  `Seen the way the beam flies: right is the ${sides.right}${sides.up === "up" ? "" : `, up is the ${sides.up}`}.`;

function stepView(g: Gathered, { path, session }: Aiming, next: AimStep, hints: ReadonlyMap<string, string>) {
  switch (next.kind) {
    case "mark": {
      const station = path.stations.find((s) => s.id === next.spot.at);
      const { right, up } = expectedAt(session.state, next.spot);
      const isKnown = Math.max(right.sd, up.sd) < 3;
      return {
        kind: "mark" as const,
        spotId: spotId(next.spot),
        spot: spotWords(g.trade, path, next.spot),
        station: theStation(nameOf(g.trade, next.spot.at)),
        onMirror: mirrorNumberOf(next.spot.at) !== undefined,
        apertureMm: station?.apertureMm ?? 20,
        sides: sidesAt(path, next.spot.at),
        seen: seenWords(sidesAt(path, next.spot.at)),
        hint: hints.get(next.spot.at),
        expected: isKnown ? { right: right.mean, up: up.mean, sd: Math.max(right.sd, up.sd) } : undefined,
        before: next.why === "opened" ? undefined : newestMarks(session.entries).get(spotId(next.spot))?.mark,
        others: othersAt(g, path, session, next.spot),
      };
    }
    case "turn": {
      const element = path.elements.find((e) => e.id === next.element);
      const far = next.expected.at(-1);
      const now = far && expectedAt(session.state, far.spot);
      return {
        kind: "turn" as const,
        element: next.element,
        name: nameOf(g.trade, next.element),
        screw: next.screw,
        turns: next.turns,
        words: turnWords(next.turns),
        isTrial: next.isTrial,
        isSearch: next.isSearch === true,
        wasTried: isTried(session, next.element, next.screw),
        place:
          element?.mount && element.inPlane
            ? (screwsOf(element.mount, element.inPlane).find((s) => s.screw === next.screw)?.place ?? "")
            : "",
        screws: element?.mount && element.inPlane ? screwsOf(element.mount, element.inPlane).map((s) => s.screw) : [],
        expected: far && {
          spot: spotWords(g.trade, path, far.spot),
          apertureMm: path.stations.find((s) => s.id === far.spot.at)?.apertureMm ?? 20,
          sides: sidesAt(path, far.spot.at),
          from: now && { right: now.right.mean, up: now.up.mean },
          to: far.mark,
          others: othersAt(g, path, session, far.spot),
          words: placeWords(far.mark),
        },
      };
    }
    case "shift":
      return { kind: "shift" as const, shift: JSON.stringify(next.shift), isTube: next.shift.of === "tube" };
    case "seat":
      return {
        kind: "seat" as const,
        name: nameOf(g.trade, next.element),
        isTube: next.element === "tube",
        isClosed: isClosed(g.trade, next.element),
      };
    case "vague":
      return { kind: "vague" as const };
    case "good":
      return { kind: "good" as const };
  }
}

function legView(g: Gathered, { path }: Aiming, leg: LegAnswer) {
  const element = path.elements.find((e) => e.id === leg.element);
  const frame = frameOf(element?.beamTo ?? "left");
  const k = mirrorNumberOf(leg.element);
  return {
    id: leg.element,
    name: `${nameOf(g.trade, leg.element)} to ${theStation(nameOf(g.trade, leg.endsAt))}`,
    status: leg.status,
    words:
      leg.status === "unknown"
        ? "not read yet"
        : leg.aim === "parallel"
          ? leg.status === "good"
            ? `marks together, ${mmWords(leg.apartMm)} apart`
            : `marks ${mmWords(leg.apartMm)} apart`
          : leg.status === "good"
            ? "meets the middle"
            : `${acrossWords(frame, leg.apart)} off the middle`,
    /** For whoever wants the sum behind it. */
    sum: [
      leg.deviation && `deviation ${signed(leg.deviation.right)}, ${signed(leg.deviation.up)} mrad`,
      leg.correction &&
        k !== undefined &&
        `mirror to turn by ${signed(leg.correction.inPlane)} mrad in its plane, ${signed(leg.correction.across)} across`,
      `together within ${withUnit(leg.toleranceMm, "mm")}`,
    ]
      .filter(Boolean)
      .join("; "),
  };
}

/** Whether a turn of a screw was read in this sitting: what it did may not be clear yet. */
const isTried = ({ trials }: Aiming["session"], element: string, screw: Screw): boolean =>
  trials.some((t) => t.element === element && t.screw === screw);

/** What is known of each screw. */
function screwsView(g: Gathered, { path, session }: Aiming) {
  const known = remembered(session.state);
  return path.elements.flatMap((element) => {
    const { mount, inPlane } = element;
    if (!mount || !inPlane) return [];
    const leverMm = element.lengthMm + element.travelMm;
    return [
      {
        id: element.id,
        name: nameOf(g.trade, element.id),
        at: theStation(nameOf(g.trade, element.endsAt)),
        screws: session.state.screws
          .filter((s) => path.elements[s.element]?.id === element.id)
          .map((s) => {
            const gain = gainOf(session.state, s).mean;
            const quarter = { right: (gain.right * leverMm) / 4000, up: (gain.up * leverMm) / 4000 };
            return {
              screw: s.screw,
              place: s.place,
              wasTried: isTried(session, element.id, s.screw),
              does: known[s.key]
                ? `a quarter clockwise moves the far mark ${acrossWords(frameAt(path, element.endsAt), quarter, 0.4)}`
                : undefined,
            };
          }),
      },
    ];
  });
}
