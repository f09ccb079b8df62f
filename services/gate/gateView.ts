/** View model of "Will it cut through?": a job asked about against the power the machine has today, and the ways on by what they cost. */
import { BED_PLACES } from "#core/coupon";
import { type KnownPower, neededLnRatio, throughProbability, type Way, type WayId, waysOn } from "#core/cuts";
import { FormReader } from "../forms/fields";
import type { Gathered } from "../machine/gather";
import { bedState, cutBase, knownPower } from "../machine/known";
import { lossOf } from "../machine/light";
import { isOwners, planOf } from "../machine/plans";
import { stopOf } from "../machine/stop";
import { usualSetPercent } from "../machine/usual";
import { chance, materialName, moneyWords, number, theStation } from "../words";

/** `search` of the page holds the form's fields; nothing is worked out until a speed is given. */
export function gateView(g: Gathered, search: URLSearchParams) {
  const materials = g.materials
    .filter((m) => !m.hidden && (m.usualSpeedMmPerS !== undefined || hasBooked(g, m.id)))
    .map((m) => ({
      id: m.id,
      label: materialName(m),
      ...bookedCut(g, m),
    }));
  const asked = search.has("speedMmPerS");
  const form = new FormData();
  for (const [name, value] of search) form.set(name, value);
  const reader = new FormReader(form);
  const answer = asked ? answerOf(g, reader) : undefined;
  return {
    slug: g.machine.slug,
    materials,
    /** Whatever is asked: nothing is cut now. */
    stop: stopOf(g),
    hasBaseline: g.baseline !== undefined,
    places: bedState(g)
      ? [{ value: "", label: "anywhere: the weakest place" }, ...BED_PLACES.map((p) => ({ value: p.id, label: p.name }))]
      : undefined,
    currency: g.currency,
    typed: Object.fromEntries([...search].map(([k, v]) => [k, v])),
    errors: reader.errors,
    answer: Object.keys(reader.errors).length > 0 || stopOf(g) !== undefined ? undefined : answer,
  };
}

const hasBooked = (g: Gathered, id: number) =>
  g.log.kinds.setting.findLast((e) => e.payload.materialId === id && e.payload.purpose === "cut") !== undefined;

/** What a material is cut at: by its owner's book, else its usual setting. */
function bookedCut(g: Gathered, m: Gathered["materials"][number]): { speed: string; setPercent: string } {
  const own = g.log.kinds.setting.findLast((e) => e.payload.materialId === m.id && e.payload.purpose === "cut")?.payload;
  return {
    speed: number(own?.speedMmPerS ?? m.usualSpeedMmPerS ?? 10),
    setPercent: number(own?.setPercent ?? usualSetPercent(m), 0),
  };
}

function answerOf(g: Gathered, reader: FormReader) {
  const speedMmPerS = reader.number("speedMmPerS", "mm/s", "14");
  const setPercent = reader.number("setPercent", "%", "60");
  const passes = Math.round(reader.optionalNumber("passes", "", "1") ?? 1);
  const cutMinutes = reader.optionalNumber("cutMinutes", "min", "6") ?? 5;
  const lostMinutes = reader.optionalNumber("lostMinutes", "min", "40") ?? 0;
  const lostMoney = reader.optionalNumber("lostMoney", "", "12") ?? 0;
  const moneyPerHour = reader.optionalNumber("moneyPerHour", "", "30") ?? 30;
  const material = g.materials.find((m) => String(m.id) === reader.text("materialId"));
  if (!material) reader.errors.materialId = "Choose what is cut.";
  for (const [name, value] of Object.entries({ speedMmPerS, setPercent, cutMinutes }))
    if (value !== undefined && value <= 0) reader.errors[name] = "Must be above 0.";
  for (const [name, value] of Object.entries({ lostMinutes, lostMoney, moneyPerHour }))
    if (value < 0) reader.errors[name] = "Must not be below 0.";
  if (passes < 1) reader.errors.passes = "At least one.";
  const { condition } = g;
  if (!material || speedMmPerS === undefined || setPercent === undefined || !condition || Object.keys(reader.errors).length > 0)
    return undefined;
  const base = cutBase(g, material);
  if (!base) {
    reader.errors.materialId = "Cut a ladder of it first, or say in the Workshop what usually cuts it.";
    return undefined;
  }
  const place = placeOf(g, reader.text("place"));
  const middle = knownPower(g) as KnownPower;
  const known: KnownPower = { ...middle, lnRatio: middle.lnRatio + (place?.ln ?? 0) };
  const lnNeed = neededLnRatio({ speedMmPerS, setPercent, passes }, base, material.beta);
  const dirty = g.trade.layout.stations
    .map((s) => ({ id: s.id, loss: lossOf(g, s) }))
    .filter((s) => isOwners(g.trade, s.id))
    .sort((a, b) => b.loss - a.loss)[0];
  const clean =
    dirty && dirty.loss > 0.01
      ? { lnGain: Math.min(dirty.loss, condition.dirt), minutes: planOf(g.trade, [dirty.id], { grades: g.grades }).minutes }
      : undefined;
  const job = { lnNeed, beta: material.beta, passes, cutMinutes, lostMinutes, lostMoney, moneyPerHour };
  const ways = waysOn(known, job, clean);
  const through = throughProbability(known, lnNeed, material.beta);
  return {
    through,
    headline: headline(through),
    lead: `It drops with ${chance(through)}. It needs ${Math.round(100 * Math.exp(lnNeed))} % of best; the machine has about ${Math.round(100 * condition.ratio)}, somewhere in ${Math.round(100 * condition.low)} to ${Math.round(100 * condition.high)}${place ? `, and ${place.name} ${Math.round(100 * Math.exp(place.ln))} % of that` : ""}.`,
    limits: [
      base.ladder ? "" : "No ladder of this material yet: its usual setting stands for one.",
      place
        ? "Not for a warped sheet or another batch: a test cut in the margin tells."
        : "Not for a corner of the bed that is weaker, a warped sheet or another batch: a bed map or a test cut in the margin tells.",
    ].filter(Boolean),
    ways: ways.map((w, i) => ({
      id: w.id,
      first: i === 0,
      name: WAY_NAMES[w.id](w, speedMmPerS, passes, dirty && theStation(g.trade.layout.names[dirty.id] ?? dirty.id)),
      through: chance(w.through),
      minutes: number(w.minutes),
      money: lostMoney > 0 ? moneyWords(w.money, g.currency) : undefined,
      part: w.id === "clean" ? dirty?.id : undefined,
    })),
  };
}

/** The place of the bed a job is asked about, by the last map: one of its places, or the weakest; undefined without a map. */
function placeOf(g: Gathered, asked: string | undefined): { name: string; ln: number } | undefined {
  const bed = bedState(g);
  if (!bed) return undefined;
  const places = bed.event.payload.places.map((p, i) => ({ id: p.place, ln: bed.lnPlaces[i] as number }));
  const named = places.find((p) => p.id === asked);
  const weakest = places.reduce((a, b) => (b.ln < a.ln ? b : a));
  const { id, ln } = named ?? weakest;
  return { name: `${named ? "" : "its weakest place, "}${BED_PLACES.find((b) => b.id === id)?.name ?? id},`, ln };
}

function headline(p: number): string {
  if (p >= 0.97) return "Yes: it should drop.";
  if (p >= 0.8) return "Probably, but not surely.";
  if (p >= 0.4) return "It may well not drop.";
  return "No: not like this.";
}

const WAY_NAMES: { readonly [W in WayId]: (way: Way, speed: number, passes: number, part: string | undefined) => string } = {
  "as-is": () => "Start as it is",
  slower: (w, speed) => `Slower, at ${number(speed * (w.speedShare ?? 1))} mm/s`,
  pass: (_, __, passes) => `One pass more, ${passes + 1} in all`,
  test: () => "A test cut in the waste margin first, then decide",
  clean: (_, __, ___, part) => `Clean ${part ?? "what is dirty"} first`,
};
