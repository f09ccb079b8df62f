/** What an owner does at the mirrors by a posted form: begins, notes a mark, a turn or a shift, takes it back, ends. */
import { type AimEntry, aimEntrySchema, isOnPath, SCREWS, solve, spotId, spotsOf } from "#core/aim";
import { addEntry, endSitting, openSitting, withdrawEntry } from "#store/aim";
import { check, type FieldErrors } from "#store/check";
import { atOnce } from "#store/database";
import { once, rowKey } from "#store/sent";
import type { Services } from "../context";
import { type FormReader, recordId, sentAs } from "../forms/fields";
import { gather } from "../machine/gather";
import type { Gathered } from "../machine/gathered";
import { stopWords } from "../machine/stop";
import { withUnit } from "../units";
import { finishGood } from "./finish";
import { type Aiming, aimingOf, caseFor } from "./sitting";
import { reachMm, tapeMarks } from "./tapeMarks";
import { nameOf } from "./words";

/** Where to go next: the round that proves it, the case, or Aim itself. */
export type Acted = { readonly to: string } | { readonly errors: FieldErrors };

const HERE = { to: "aim" } as const;

/** A mark further off than this cannot be on any tape, mm. */
const OFF_ANY_TAPE_MM = 60;

/** Throws NotHere. */
export async function aimByForm(services: Services, slug: string, reader: FormReader): Promise<Acted> {
  const g = await gather(services, slug);
  const aiming = await aimingOf(services, g);
  if ("problem" in aiming) return { errors: { "": aiming.problem } };
  const intent = reader.text("intent") ?? "";
  if (intent === "start") return start(services, g, aiming, reader);
  const { sitting } = aiming;
  if (!sitting)
    return {
      errors: { "": "This alignment was ended, perhaps on another device. Your last entry was not saved. Start the alignment again." },
    };
  const stop = stopWords(g);
  if (stop !== undefined && intent !== "leave" && intent !== "undo") return { errors: { "": stop } };
  switch (intent) {
    case "undo":
      await withdrawEntry(services.store, sitting.id, recordId(reader.text("entry")) ?? 0, g.nowMs);
      return HERE;
    case "mark":
      return keep(services, g, aiming, sitting.id, reader, readMark(g, aiming, reader));
    case "miss":
      return keep(services, g, aiming, sitting.id, reader, readMiss(aiming, reader));
    case "turn":
      return keep(services, g, aiming, sitting.id, reader, readTurn(aiming, reader));
    case "shift":
      return keep(services, g, aiming, sitting.id, reader, readShift(reader));
    case "forget":
      return keep(services, g, aiming, sitting.id, reader, { entries: [{ kind: "forget", element: reader.text("element") ?? "" }] });
    case "back":
      return keep(services, g, aiming, sitting.id, reader, {
        entries: solve(aiming.session).back.map((t): AimEntry => ({ kind: "turn", ...t })),
      });
    case "finish":
      return finish(services, g, aiming, sitting.id, reader);
    case "leave":
      return leave(services, g, sitting.id, reader);
  }
  return { errors: { "": "This is not something that can be done here." } };
}

async function start(services: Services, g: Gathered, { path, last }: Aiming, reader: FormReader): Promise<Acted> {
  const stop = stopWords(g);
  if (stop !== undefined) return { errors: { "": stop } };
  if (reader.text("safe") === undefined) return { errors: { safe: "Tick it when it is so. Do not fire before that." } };
  const entries = reader.text("take") === undefined ? [] : tapeMarks(g, path, last?.endedMs).map((m) => m.entry);
  const sent = sentAs(`aim ${g.machine.id}`, reader);
  await once(services.store, sent, g.nowMs, (tx) =>
    openSitting(tx, g.machine.id, { caseId: caseFor(g, recordId(reader.text("caseId")))?.id, requestKey: rowKey(sent), entries }, g.nowMs),
  );
  return HERE;
}

type Read = { readonly entries: readonly AimEntry[] } | { readonly errors: FieldErrors };

async function keep(services: Services, g: Gathered, { path }: Aiming, sittingId: number, reader: FormReader, read: Read): Promise<Acted> {
  if ("errors" in read) return read;
  for (const entry of read.entries)
    if (!check(aimEntrySchema, entry).ok || !isOnPath(path, entry)) return { errors: { "": "That cannot be noted here." } };
  const sent = sentAs(`aim ${g.machine.id} ${sittingId}`, reader);
  await once(services.store, sent, g.nowMs, async (tx) => {
    for (const [i, entry] of read.entries.entries()) await addEntry(tx, sittingId, entry, `${rowKey(sent)}:${i}`, g.nowMs);
  });
  return HERE;
}

function readMark(g: Gathered, { path }: Aiming, reader: FormReader): Read {
  const spot = spotsOf(path).find((s) => spotId(s) === reader.text("spot"));
  if (!spot) return { errors: { "": "This machine has no such place for tape." } };
  const right = reader.number("right", "mm", "-1.5");
  const up = reader.number("up", "mm", "0.5");
  if (right === undefined || up === undefined) return { errors: reader.errors };
  const off = Math.hypot(right, up);
  const aperture = path.stations.find((s) => s.id === spot.at)?.apertureMm ?? 20;
  if (off > OFF_ANY_TAPE_MM) return { errors: { right: `${withUnit(off, "mm")} from the middle is off any tape. Millimetres are meant.` } };
  if (off > reachMm(path, spot.at) && reader.text("sure") === undefined)
    return {
      errors: {
        sure: `${withUnit(off, "mm")} from the middle lies far outside ${nameOf(g.trade, spot.at)} (${withUnit(aperture, "mm")} wide). Look again; if it really is there, tick this.`,
      },
    };
  return { entries: [{ kind: "mark", spot, mark: { right, up } }] };
}

const SIDES = ["right", "left", "up", "down"] as const;

/** A pulse that left no mark, and the side it went by where that was seen. */
function readMiss({ path }: Aiming, reader: FormReader): Read {
  const spot = spotsOf(path).find((s) => spotId(s) === reader.text("spot"));
  if (!spot) return { errors: { "": "This machine has no such place for tape." } };
  const side = SIDES.find((s) => s === reader.text("side"));
  return { entries: [{ kind: "miss", spot: { at: spot.at, far: [...spot.far] }, ...(side ? { side } : {}) }] };
}

function readTurn({ path }: Aiming, reader: FormReader): Read {
  const element = path.elements.find((e) => e.id === reader.text("element"));
  const screw = SCREWS.find((s) => s === reader.text("screw"));
  const amount = Number(reader.text("amount"));
  const turns = reader.text("sense") === "anticlockwise" ? -amount : amount;
  if (!element?.mount || !screw || !Number.isFinite(turns) || turns === 0 || Math.abs(turns) > 3)
    return { errors: { amount: "Say which screw, how far, and which way." } };
  return { entries: [{ kind: "turn", element: element.id, screw, turns }] };
}

function readShift(reader: FormReader): Read {
  try {
    return { entries: [{ kind: "shift", shift: JSON.parse(reader.text("shift") ?? "") }] };
  } catch {
    return { errors: { "": "That cannot be noted here." } };
  }
}

/** Ends a sitting that is good enough. The power limit put back is a step like any other that protects what comes next: it must be ticked. */
async function finish(services: Services, g: Gathered, aiming: Aiming, sittingId: number, reader: FormReader): Promise<Acted> {
  if (reader.text("power-back") === undefined)
    return { errors: { "power-back": "Put the power limit back, then tick it. Left low it looks like a dying tube." } };
  const answer = solve(aiming.session);
  if (!answer.goodEnough && !answer.enoughForToday)
    return { errors: { "": "Another device noted something meanwhile: it is not good enough any more." } };
  const sent = sentAs(`aim ${g.machine.id} ${sittingId}`, reader);
  return once(services.store, sent, g.nowMs, (tx) =>
    finishGood({ ...services, store: tx, nowMs: () => g.nowMs }, g, aiming, sittingId, rowKey(sent)),
  );
}

async function leave(services: Services, g: Gathered, sittingId: number, reader: FormReader): Promise<Acted> {
  if (reader.text("power-back") === undefined)
    return { errors: { "power-back": "Put the power limit back, then tick it. Left low it looks like a dying tube." } };
  const why = reader.text("why") ?? "left before it was good";
  await atOnce(services.store, (tx) => endSitting(tx, sittingId, { good: false, words: why.slice(0, 200) }, g.nowMs));
  return HERE;
}
