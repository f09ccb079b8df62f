/**
 * `npm run bench -- wear`: what is said of machines that wear as the fit does not suppose (`judge/power/world.ts`), beside three simple habits;
 * how well the fit recovers machines drawn from its own prior; and what it takes. Seeds below 50,000 are for building; reported are others.
 */
import { Z90 } from "#core/normal";
import { ageingOf, estimateCondition, factorOf, fitWear, lossOf } from "#core/wear";
import { stateOf } from "#services/machine/spare";
import { ask, LOST, type Said } from "../power/asked";
import { simulateWear, type WearHistory } from "../power/histories";
import { type Job, KEEPINGS, type PowerWorld, powerWorld, TUBE_LAWS } from "../power/world";

const FIRST_SEED = Number(process.argv[2] ?? 50_001);
const EACH = Number(process.argv[3] ?? 8);
const MACHINES = 200;

const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / Math.max(1, list.length);
const median = (list: readonly number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? Number.NaN;
const percent = (share: number) => `${(100 * share).toFixed(0)} %`;
const points = (x: number) => (x >= 0 ? "+" : "") + x.toFixed(1);
const within = (truth: number, { mean: m, sd }: { mean: number; sd: number }, from = Number.NEGATIVE_INFINITY) =>
  truth >= Math.max(from, m - Z90 * sd) && truth <= m + Z90 * sd;
const of100 = (ln: number) => 100 * Math.exp(ln);

interface Judged {
  readonly w: PowerWorld;
  readonly said: Said;
}

async function machines(): Promise<Judged[]> {
  const all: Judged[] = [];
  let seed = FIRST_SEED;
  for (const law of TUBE_LAWS)
    for (const keeping of KEEPINGS)
      for (let i = 0; i < EACH; i++) {
        const w = powerWorld(seed++, law, keeping);
        const said = await ask(w);
        if (said) all.push({ w, said });
      }
  return all;
}

/** Power today, against the truth. */
function power(list: readonly Judged[]) {
  const errors = list.map(({ w, said }) => 100 * said.condition.ratio - of100(w.truth.lnRatio));
  const { high, low } = { high: (j: Judged) => j.said.condition.high, low: (j: Judged) => j.said.condition.low };
  return {
    machines: list.length,
    bias: points(mean(errors)),
    "mean error": mean(errors.map(Math.abs)).toFixed(1),
    cover: percent(mean(list.map((j) => Number(Math.exp(j.w.truth.lnRatio) >= low(j) && Math.exp(j.w.truth.lnRatio) <= high(j))))),
    "half width": mean(list.map((j) => 50 * (high(j) - low(j)))).toFixed(1),
  };
}

/** The same by the habits of those who reckon by hand. */
const HABITS: Readonly<Record<string, (s: Said) => number>> = {
  "mean of the last three ladders": (s) => Math.exp(mean(s.ladders.slice(-3).map((l) => l.ln))),
  "the last ladder": (s) => Math.exp(s.ladders.at(-1)?.ln ?? 0),
  "a straight line": (s) => {
    const n = s.ladders.length;
    if (n < 2) return Math.exp(s.ladders.at(-1)?.ln ?? 0);
    const day = mean(s.ladders.map((l) => l.day));
    const ln = mean(s.ladders.map((l) => l.ln));
    const slope = s.ladders.reduce((a, l) => a + (l.day - day) * (l.ln - ln), 0) / s.ladders.reduce((a, l) => a + (l.day - day) ** 2, 1e-9);
    return Math.exp(ln + slope * (s.condition.moment.day - day));
  },
};

function rest(list: readonly Judged[]) {
  const line = (what: string, now: string, wanted: string) => ({ what, now, wanted });
  const at60 = (j: Judged, kept: boolean) => {
    const s = kept ? j.said.kept : j.said.dirty;
    const truth = kept ? j.w.truth.kept : j.w.truth.dirty;
    return { error: of100(s.mean) - of100(truth), inside: within(truth, s) };
  };
  const kept = list.map((j) => at60(j, true));
  const dirty = list.map((j) => at60(j, false));
  const stated = list.filter((j) => !j.said.tooEarly);
  const parts = (part: "dirt" | "tube" | "other") =>
    percent(mean(list.map((j) => Number(within(j.w.truth[part], j.said.condition.parts[part])))));
  const stops = list.filter((j) => j.w.truth.stopsInDays > 0 && j.w.truth.stopsInDays < 200 && j.said.stopsInDays > 0);
  const word = (r: number) => (r >= 0.9 ? "strong" : r >= 0.8 ? "weaker" : "weak");
  const wordWrong = list.map((j) => Number(!j.said.words.includes(word(Math.exp(j.w.truth.lnRatio)))));
  const verdicts = list.flatMap((j) => (j.said.spare ? [{ state: stateOf(j.said.spare), drops: j.w.truth.spare > 0 }] : []));
  const wrong = verdicts.filter((v) => (v.state === "fit" && !v.drops) || (v.state === "weak" && v.drops));
  const named = list.filter((j) => j.said.condition.leads !== undefined);
  const truly = (j: Judged) => {
    const { dirt, tube, other } = j.w.truth;
    const most = Math.max(dirt, tube, other);
    return most === dirt ? "dirt" : most === tube ? "tube" : "other";
  };
  return [
    line(
      "kept clean, 60 days on: bias, cover",
      `${points(mean(kept.map((k) => k.error)))}, ${percent(mean(kept.map((k) => Number(k.inside))))}`,
      "at least 80 %",
    ),
    line(
      "not cleaned, 60 days on: bias, cover",
      `${points(mean(dirty.map((k) => k.error)))}, ${percent(mean(dirty.map((k) => Number(k.inside))))}`,
      "within 5, at least 75 %",
    ),
    line(
      "hours left, stated: cover (share stated)",
      `${percent(mean(stated.map((j) => Number(j.w.truth.hoursLeft >= j.said.left.low - 5 && j.w.truth.hoursLeft <= j.said.left.high + 10))))} (${percent(stated.length / list.length)})`,
      "at least 75 %",
    ),
    line("dirt / tube / neither: cover", `${parts("dirt")} / ${parts("tube")} / ${parts("other")}`, "at least 75 % each"),
    line(
      "named as leading: share, wrong",
      `${percent(named.length / list.length)}, ${percent(mean(named.map((j) => Number(truly(j) !== j.said.condition.leads))))}`,
      "at most 20 % wrong",
    ),
    line(
      "the day a usual cut stops: median error, days",
      `${median(stops.map((j) => Math.abs(j.said.stopsInDays - j.w.truth.stopsInDays))).toFixed(0)} (mean ${mean(stops.map((j) => Math.abs(j.said.stopsInDays - j.w.truth.stopsInDays))).toFixed(0)})`,
      "at most 14",
    ),
    line(
      "word by % of best: wrong (two words said)",
      `${percent(mean(wordWrong))} (${percent(mean(list.map((j) => Number(j.said.words.length > 1))))})`,
      "at most 12 %",
    ),
    line(
      "verdict on the usual cut: wrong, on the edge",
      `${percent(wrong.length / verdicts.length)}, ${percent(mean(verdicts.map((v) => Number(v.state === "edge"))))}`,
      "at most 8 %, 25 %",
    ),
  ];
}

/** What following the gate costs, and what habits cost that ask nobody. */
function gate(list: readonly Judged[]) {
  const failed = LOST.money + (LOST.minutes * LOST.perHour) / 60;
  const perMinute = LOST.perHour / 60;
  const cost = (minutes: number, drops: boolean) => minutes * perMinute + (drops ? 0 : failed);
  const at = (job: Job, share: number, passes = 1) => cost(job.cutMinutes * (passes / share - 1), job.drops(share, passes));
  const jobs = list.flatMap(({ w, said }) => w.jobs.map((job, i) => ({ job, said: said.jobs[i] as Said["jobs"][number] })));
  const followed = jobs.map(({ job, said }) => {
    const [way] = said.ways;
    if (way?.id === "slower") return at(job, way.speedShare ?? 1);
    if (way?.id === "pass") return at(job, 1, 2);
    if (way?.id === "test") {
      const share = way.speedShare ?? 0.8;
      return 2 * perMinute + (job.test(1) ? at(job, 1) : at(job, share));
    }
    return at(job, 1);
  });
  const habits = {
    "as it is": jobs.map(({ job }) => at(job, 1)),
    "always 15 % slower": jobs.map(({ job }) => at(job, 0.85)),
    "always 25 % slower": jobs.map(({ job }) => at(job, 0.75)),
    "always two passes": jobs.map(({ job }) => at(job, 1, 2)),
  };
  const bins = [
    [0, 0.1],
    [0.1, 0.25],
    [0.25, 0.5],
    [0.5, 0.75],
    [0.75, 0.9],
    [0.9, 0.97],
    [0.97, 0.99],
    [0.99, 1.0001],
  ] as const;
  console.log("\nThe gate: said and happened");
  console.table(
    bins.flatMap(([from, to]) => {
      const own = jobs.filter((j) => j.said.through >= from && j.said.through < to);
      if (own.length < 5) return [];
      return [
        {
          said: `${percent(from)} to ${percent(to)}`,
          jobs: own.length,
          mean: percent(mean(own.map((j) => j.said.through))),
          happened: percent(mean(own.map((j) => Number(j.job.drops(1, 1))))),
        },
      ];
    }),
  );
  const cheapest = Math.min(...Object.values(habits).map(mean));
  console.log(
    `Mean cost of following it: ${mean(followed).toFixed(2)}; ${Object.entries(habits)
      .map(([name, c]) => `${name} ${mean(c).toFixed(2)}`)
      .join(", ")}: ${(mean(followed) / cheapest).toFixed(2)} of the cheapest (wanted: at most 0.6)`,
  );
  const ways = new Map<string, number>();
  for (const { said } of jobs) ways.set(said.ways[0]?.id ?? "", (ways.get(said.ways[0]?.id ?? "") ?? 0) + 1);
  console.log([...ways].map(([id, n]) => `${id} ${n}`).join(", "));
}

const all = await machines();
console.log(
  `Machines that wear in ways of their own, ${EACH} of each law and keeping, seeds ${FIRST_SEED} on. Wanted: bias within 1.5, mean error 5.8 (sparse 7.5), cover 84 to 95 % each, half width 12`,
);
console.table({
  all: power(all),
  ...Object.fromEntries(TUBE_LAWS.map((l) => [`tube ${l}`, power(all.filter((j) => j.w.law === l))])),
  ...Object.fromEntries(KEEPINGS.map((k) => [`log ${k}`, power(all.filter((j) => j.w.keeping === k))])),
});
console.table(
  Object.entries(HABITS).map(([habit, by]) => {
    const errors = all.map((j) => 100 * by(j.said) - of100(j.w.truth.lnRatio));
    return { habit, bias: points(mean(errors)), "mean error": mean(errors.map(Math.abs)).toFixed(1) };
  }),
);
console.table(rest(all));
gate(all);

function recover(ladders: number, hours: number) {
  const list: WearHistory[] = Array.from({ length: MACHINES }, (_, i) => simulateWear(FIRST_SEED + i, ladders, hours));
  const fits = list.map((m) => ({ m, fit: fitWear(m.evidence) }));
  const optics = list[0]?.truth.factors.length ?? 0;
  const covered = (inside: (f: (typeof fits)[number]) => boolean) => mean(fits.map((f) => Number(inside(f))));
  const factors = Array.from({ length: optics }, (_, k) =>
    covered(({ m, fit }) => within(m.truth.factors[k] as number, factorOf(fit, k), 0)),
  );
  return {
    ladders,
    hours,
    "ageing covered": percent(covered(({ m, fit }) => within(m.truth.ageingPerHour, ageingOf(fit), 0))),
    "median error": percent(median(fits.map(({ m, fit }) => Math.abs(ageingOf(fit).mean / m.truth.ageingPerHour - 1)))),
    "loss today covered": percent(covered(({ m, fit }) => within(m.truth.lossToday, lossOf(fit, m.now)))),
    "optics covered": factors.map(percent).join(" "),
  };
}
console.log(`\nControl: ${MACHINES} machines each, drawn from the prior. Wanted: 84 to 96 % covered.`);
console.table([recover(25, 400), recover(60, 1500)]);

/** Ten years: five thousand readings, half of them no more than bounds; the newest bounds count. */
const long = simulateWear(7, 5000, 9000);
const times = Array.from({ length: 5 }, () => {
  const from = performance.now();
  estimateCondition(long.evidence, long.now);
  return performance.now() - from;
});
console.log(`A fit of ${long.evidence.readings.length} readings: ${median(times).toFixed(0)} ms at the median.`);
