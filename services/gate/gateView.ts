/** View model of "Will it cut through?": a job asked about against the power the machine has today, and the ways on by what they cost. */
import { BED_PLACES } from "#core/coupon";
import { type KnownPower, neededLnRatio, throughProbability, type Way, type WayId, waysOn } from "#core/cuts";
import { Z90 } from "#core/normal";
import { FormReader } from "../forms/fields";
import type { Gathered } from "../machine/gathered";
import { bedState, cutBase, knownPower } from "../machine/known";
import { lossOf } from "../machine/light";
import { isOwners, planOf } from "../machine/plans";
import { cutStopOf } from "../machine/stop";
import { leastPower, slowestSafe, usualSetPercent } from "../machine/usual";
import { figureHere, withUnit } from "../units";
import { chance, materialName, moneyWords, number, theStation, wholeMinutes } from "../words";

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
    stop: cutStopOf(g),
    hasBaseline: g.baseline !== undefined,
    places: bedState(g)
      ? [{ value: "", label: "anywhere: the weakest place" }, ...BED_PLACES.map((p) => ({ value: p.id, label: p.name }))]
      : undefined,
    currency: g.currency,
    typed: Object.fromEntries([...search].map(([k, v]) => [k, v])),
    errors: reader.errors,
    answer: Object.keys(reader.errors).length > 0 || cutStopOf(g) !== undefined ? undefined : answer,
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
  const material = g.materials.find((m) => !m.hidden && String(m.id) === reader.text("materialId"));
  if (!material) reader.errors.materialId = "Choose what is cut.";
  inBounds(reader, { speedMmPerS, setPercent, passes, cutMinutes, lostMinutes, lostMoney, moneyPerHour });
  const least = leastPower(g);
  if (setPercent !== undefined && setPercent > 0 && setPercent < least.percent)
    reader.errors.setPercent = `Below about ${least.percent} % a ${least.tube} tube does not fire steadily. Enter ${least.percent} or more.`;
  const slowest = material && slowestSafe(material);
  if (slowest !== undefined && speedMmPerS !== undefined && speedMmPerS > 0 && speedMmPerS < slowest)
    reader.errors.speedMmPerS = `Slower than ${withUnit(slowest, "mm/s")} ${materialName(material)} burns rather than cuts. Enter ${figureHere(slowest, "mm/s")} or more.`;
  const { condition } = g;
  if (!material || speedMmPerS === undefined || setPercent === undefined || !condition || Object.keys(reader.errors).length > 0)
    return undefined;
  const base = cutBase(g, material);
  if (!base) {
    reader.errors.materialId = "Cut a ladder of it first, or say in the Workshop what usually cuts it.";
    return undefined;
  }
  const place = placeOf(g, reader.text("place"));
  const middle = knownPower(g, base, material) as KnownPower;
  const known: KnownPower = { ...middle, lnRatio: middle.lnRatio + (place?.ln ?? 0) };
  const lnNeed = neededLnRatio({ speedMmPerS, setPercent, passes }, base, material.beta);
  const dirty = g.trade.layout.stations
    .map((s) => ({ id: s.id, loss: lossOf(g, s) }))
    .filter((s) => isOwners(g.trade, s.id))
    .sort((a, b) => b.loss - a.loss)[0];
  const clean =
    dirty && dirty.loss > 0.01
      ? { lnGain: Math.min(dirty.loss, condition.dirt), minutes: planOf(g.trade, [dirty.id], { grades: g.grades, out: g.out }).minutes }
      : undefined;
  const slowestShare = Math.min(1, slowestSafe(material) / speedMmPerS);
  const job = { lnNeed, beta: material.beta, passes, cutMinutes, lostMinutes, lostMoney, moneyPerHour, slowestShare };
  const ways = waysOn(known, job, clean);
  const through = throughProbability(known, lnNeed, material.beta);
  return {
    through,
    headline: headline(through),
    lead: `Chance that it drops out: ${chance(through)}. ${needWords(lnNeed)}; the machine has about ${Math.round(100 * Math.exp(middle.lnRatio))} % (between ${Math.round(100 * Math.exp(middle.lnRatio - Z90 * middle.sd))} and ${Math.round(100 * Math.exp(middle.lnRatio + Z90 * middle.sd))} %)${place ? `, and ${place.name} ${Math.round(100 * Math.exp(place.ln))} % of that` : ""}.`,
    limits: [
      base.ladder ? "" : "There is no ladder of this material yet: your usual setting is used instead.",
      place
        ? "It does not know of a warped sheet or another batch: a test cut in the margin tells."
        : "It does not know of a weaker corner of the bed, a warped sheet or another batch: a bed map or a test cut in the margin tells.",
      ways.some((w) => w.id === "slower") || through >= 0.98
        ? ""
        : `Slower is not offered: below ${withUnit(slowestSafe(material), "mm/s")} this material burns rather than cuts.`,
    ].filter(Boolean),
    ways: ways.map((w, i) => ({
      id: w.id,
      first: i === 0,
      name: WAY_NAMES[w.id](w, speedMmPerS, passes, dirty && theStation(g.trade.layout.names[dirty.id] ?? dirty.id)),
      through: chance(w.through),
      minutes: wholeMinutes(w.minutes),
      money: lostMoney > 0 ? (w.money < 0.005 ? "no cost" : moneyWords(w.money, g.currency)) : undefined,
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
  if (p >= 0.97) return "Yes: it should drop out.";
  if (p >= 0.8) return "Very likely, but not surely.";
  if (p >= 0.5) return "Probably. Make a test cut first.";
  if (p >= 0.05) return "Probably not.";
  return "No: not like this.";
}

/** Power that no machine comes to is not said to the per cent. */
const MOST_NEED = 1.5;
const needWords = (lnNeed: number): string =>
  lnNeed > Math.log(MOST_NEED)
    ? `It needs more than ${Math.round(100 * MOST_NEED)} % of the power its baseline ladder showed, which this machine does not have`
    : `It needs ${Math.round(100 * Math.exp(lnNeed))} % of the power its baseline ladder showed`;

/** What a figure of the form may be, with its unit; the lower end is left out where 0 is no figure at all. */
const BOUNDS = {
  speedMmPerS: { above: 0, most: 2000, unit: "mm/s" },
  setPercent: { above: 0, most: 100, unit: "%" },
  passes: { above: 0, most: 20, unit: "passes" },
  cutMinutes: { above: 0, most: 1440, unit: "min" },
  lostMinutes: { above: -1, most: 10_000, unit: "min" },
  lostMoney: { above: -1, most: 1_000_000, unit: "" },
  moneyPerHour: { above: -1, most: 100_000, unit: "" },
} as const;

function inBounds(reader: FormReader, figures: { readonly [F in keyof typeof BOUNDS]: number | undefined }): void {
  for (const [name, value] of Object.entries(figures) as [keyof typeof BOUNDS, number | undefined][]) {
    const { above, most, unit } = BOUNDS[name];
    if (value === undefined) continue;
    if (value > most) reader.errors[name] = `At most ${withUnit(most, unit, 0)}`.trim().concat(".");
    else if (above === 0 ? value <= 0 : value < 0) reader.errors[name] = above === 0 ? "Must be above 0." : "Must not be below 0.";
  }
}

const WAY_NAMES: { readonly [W in WayId]: (way: Way, speed: number, passes: number, part: string | undefined) => string } = {
  "as-is": () => "Start as it is",
  slower: (w, speed) => `Slower, at ${withUnit(speed * (w.speedShare ?? 1), "mm/s")}`,
  pass: (_, __, passes) => `One pass more, ${passes + 1} in all`,
  test: () => "A test cut in the waste margin first, then decide",
  clean: (_, __, ___, part) => `Clean ${part ?? "what is dirty"} first`,
};
