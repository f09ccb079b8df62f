import { describe, expect, it } from "vitest";
import type { Matrix } from "#core/agents";
import type { Grade } from "#core/beam";
import type { Fittings, PathStation } from "#core/machine";
import { holds } from "#core/machine";
import {
  chooseAgents,
  furthest,
  heldBy,
  isApart,
  minutesLeft,
  type Procedure,
  type ProcedureSpec,
  planRound,
  type RoundAnswer,
  type RoundFrame,
  resolveProcedure,
  type Situation,
  type Step,
  sharedAccess,
  walkOf,
} from "#core/rounds";

const matrix: Matrix = {
  agents: [
    { id: "spirit", name: "spirit", kind: "liquid", contains: ["alcohol"], flammable: true },
    { id: "soap", name: "soap", kind: "liquid", contains: ["soap"] },
    { id: "acid", name: "acid", kind: "liquid", contains: ["acid"] },
  ],
  surfaces: [
    { id: "glass", name: "glass", allowed: { spirit: "sparingly", soap: "well" }, onlyIf: {}, never: { acid: "it etches" } },
    { id: "brass", name: "brass", allowed: { soap: "well" }, onlyIf: { spirit: { needs: "cold", because: "only cold" } }, never: {} },
  ],
  mixes: [],
};
const fittings: Fittings = {
  bearing: "open",
  cooling: "bucket",
  lid: "glass",
  bed: "both",
  extras: ["encoder"],
  school: "by-use",
  opticsOrder: "by-scope",
};
const situation: Situation = {
  fittings,
  movingHead: false,
  boreMm: 2.5,
  matrix,
  supplyWords: "It kills.",
  surfaceOf: (s) => (s.role === "nozzle" ? "brass" : "glass"),
};
const station = (more: Partial<PathStation> = {}): PathStation => ({
  id: "mirror-2",
  role: "mirror",
  name: "M2",
  coating: "coated",
  mount: "screw-cell",
  apertureMm: 20,
  distanceMm: 100,
  travelMm: 0,
  ...more,
});
const subject = (more: Partial<PathStation> = {}) => ({ part: "mirror-2", name: "M2", station: station(more) });

describe("a condition", () => {
  it.each([
    [undefined, true],
    [{ mount: ["screw-cell"] }, true],
    [{ mount: ["magnet", "captive"] }, false],
    [{ inPlace: true }, true],
    [{ inPlace: false }, false],
    [{ bed: ["slats"] }, true],
    [{ cooling: ["air"] }, false],
    [{ bearing: ["open"], extra: ["encoder"] }, true],
    [{ bearing: ["open"], extra: ["camera"] }, false],
    [{ without: ["encoder"] }, false],
    [{ head: true }, false],
    [{ enclosed: false, movingHead: false }, true],
  ] as const)("%j: %s", (when, so) => expect(holds(when as never, situation, subject())).toBe(so));
});

describe("the agents of a step", () => {
  const step = { id: "wipe", title: "", text: "", minutes: 1, agents: [["spirit", "soap"]] } as const;
  const withShelf = (agents: readonly string[]) => ({ ...situation, fittings: { ...fittings, agents: [...agents] } });
  it("are the best allowed, the owner's own first, and what is missing says so", () => {
    expect(chooseAgents(step, "glass", situation)).toMatchObject([{ id: "spirit", how: "sparingly" }]);
    expect(chooseAgents(step, "glass", withShelf(["soap"]))).toMatchObject([{ id: "soap", how: "well" }]);
    expect(chooseAgents(step, "glass", withShelf([]))).toMatchObject([{ id: "spirit", missing: true }]);
  });
  it("meet a condition only where the step says it does", () => {
    expect(chooseAgents(step, "brass", situation)).toMatchObject([{ id: "soap" }]);
    expect(chooseAgents({ ...step, meets: ["cold"] }, "brass", situation)).toMatchObject([{ id: "spirit", how: "only cold" }]);
  });
  it("cannot be written against the matrix: such a step fails when it is made", () => {
    expect(() => chooseAgents({ ...step, agents: [["acid"]] }, "glass", withShelf(["acid"]))).toThrow(/nothing of acid may touch glass/);
    expect(() => chooseAgents({ ...step, agents: [["acid"]] }, "brass", situation)).toThrow(RangeError);
    expect(() => chooseAgents({ ...step, agents: [["broth"]] }, "glass", situation)).toThrow(/no agent broth/);
  });
});

const spec: ProcedureSpec = {
  id: "mirror",
  name: "Mirror",
  area: "optics",
  station: "@station",
  opensSeat: { inPlace: false },
  steps: [
    {
      id: "in",
      title: "Clean {the part} in place.",
      text: "Kept: {place} {way}",
      minutes: 2,
      when: { inPlace: true },
      surface: "@own",
      agents: [["spirit"]],
      service: "cleaned",
    },
    { id: "out", title: "Take {part} out.", text: "Bore {bore}.", minutes: 3, when: { inPlace: false } },
  ],
};

describe("a procedure made ready for a machine", () => {
  it("takes its steps by how the part is held, fills in what is known, and says what is wet", () => {
    const still = resolveProcedure(spec, situation, subject({ wayRound: "stamp up" }));
    expect(still).toMatchObject({ id: "mirror-2", station: "mirror-2", opensSeat: undefined, lowPower: false });
    expect(still?.steps).toMatchObject([
      {
        id: "mirror-2.in",
        title: "Clean M2 in place.",
        text: "Kept: Yours: stamp up.",
        wet: true,
        refused: [{ name: "acid" }],
        service: { what: "cleaned" },
      },
    ]);
    const out = resolveProcedure(spec, situation, subject({ mount: "magnet" }));
    expect(out).toMatchObject({ opensSeat: "keeps-aim", lowPower: false });
    expect(out?.steps).toMatchObject([{ id: "mirror-2.out", title: "Take M2 out.", text: "Bore 2.5 mm." }]);
    expect(resolveProcedure({ ...spec, when: { cooling: ["air"] } }, situation, subject())).toBeUndefined();
  });

  it("keeps the tasks of a system apart, and a station's service whole", () => {
    const rails: ProcedureSpec = {
      id: "rails",
      name: "Rails",
      area: "motion",
      station: "motion",
      steps: [{ id: "wipe", title: "", text: "", minutes: 1, service: "cleaned" }],
    };
    expect(resolveProcedure(rails, situation, { part: "rails", name: "Rails" })?.steps[0]).toMatchObject({
      station: "motion",
      service: { what: "cleaned", task: "rails" },
    });
    expect(resolveProcedure(spec, situation, subject())?.steps[0]?.service).toEqual({ what: "cleaned" });
  });
});

const plain = (id: string, more: Partial<Step> = {}): Step => ({ id, part: id, kind: "do", title: id, text: id, minutes: 1, ...more });
const frame: RoundFrame = {
  makeSafe: plain("make-safe", { text: "Safe.{positions}" }),
  fetch: plain("fetch"),
  hands: plain("hands"),
  openPanel: plain("open", { title: "Open the {panel}.{keys}", caution: "Careful." }),
  closePanel: plain("close", { title: "{Panel} on." }),
  openHead: [plain("head-open")],
  closeHead: [plain("head-close")],
  focus: { when: "unplugged", step: plain("focus") },
  dry: plain("dry", { minutes: 0 }),
  powerOn: plain("power-on"),
  dryingSeconds: 60,
  afterPower: [plain("flow")],
  aimCheck: plain("aim"),
  nearFar: plain("near-far"),
  block: plain("block"),
  powerBack: plain("power-back"),
  proof: plain("proof", { kind: "proof" }),
  piece: plain("piece", { kind: "proof" }),
};
const part = (id: string, more: Partial<Procedure> = {}): Procedure => ({
  id,
  name: id,
  area: "optics",
  station: id,
  steps: [plain(`${id}.do`)],
  ...more,
});
const options = { order: "head-first", path: ["tube", "window", "mirror-1", "mirror-2", "lens", "nozzle"] } as const;
const idsOf = (...parts: Procedure[]) => planRound(parts, frame, options).steps.map((s) => s.id);

const found = (id: string) => plain(`${id}.found`, { kind: "grade" });
const onHaze = (id: string) => [{ step: `${id}.found`, grades: [1, 3] as const }];

describe("the frame around the parts", () => {
  it("bends to what they open", () => {
    expect(idsOf(part("lens", { opensHead: true }))).toEqual(
      "make-safe fetch hands head-open lens.do head-close focus power-on flow piece".split(" "),
    );
    expect(idsOf(part("rails", { area: "motion", station: undefined, provenBy: "block" }))).toEqual(
      "make-safe fetch rails.do power-on flow block proof".split(" "),
    );
    expect(idsOf(part("files", { area: "running", station: undefined }))).toEqual(["files.do", "proof"]);
    expect(idsOf(part("aim", { area: "running", lowPower: true }))).toEqual(["aim.do", "power-back", "proof"]);
    expect(idsOf(part("mirror-1", { opensSeat: "loses-aim" })).slice(-4)).toEqual(["flow", "aim", "power-back", "proof"]);
    expect(idsOf(part("mirror-1", { opensSeat: "keeps-aim" })).slice(-3)).toEqual(["flow", "near-far", "proof"]);
    expect(idsOf()).toEqual(["proof"]);
  });

  it("puts the looks first where only they decide what is touched, and asks for the rest as they do", () => {
    const look = part("lens-look", { station: "lens", steps: [found("lens-look")] });
    const lens = part("lens", { opensHead: true, steps: [plain("lens.do", { when: onHaze("lens-look") })] });
    const plan = planRound([lens, look], frame, options);
    const walk = (grade: Grade) => walkOf(plan.steps, new Map([["lens-look.found", { grade, atMs: 1 }]])).map((s) => s.id);
    expect(walk(0)).toEqual("make-safe lens-look.found power-on flow piece".split(" "));
    expect(walk(1)).toEqual(
      "make-safe lens-look.found fetch hands head-open lens.do head-close power-on flow piece"
        .replace("head-close", "head-close focus")
        .split(" "),
    );
    expect(walk(4)).toEqual(walk(0));
    expect([plan.minutes, plan.minutesMost]).toEqual([5, 11]);
  });

  it("keeps the lens away while anything above or below it is cleaned", () => {
    const ids = idsOf(
      part("mirror-2", { atHead: true, steps: [found("mirror-2"), plain("mirror-2.clean")] }),
      part("lens", { opensHead: true, steps: [plain("lens.out"), plain("lens.in", { last: true })] }),
      part("nozzle", { opensHead: true }),
    );
    expect(ids.slice(3, 10)).toEqual("head-open lens.out nozzle.do mirror-2.found mirror-2.clean lens.in head-close".split(" "));
  });

  it("waits for drying only where something flammable was used, and counts what is left of the wait", () => {
    const plan = (steps: readonly Step[]) => planRound([part("lens", { steps })], frame, options);
    const timer = (steps: readonly Step[]) => plan(steps).steps.find((s) => s.id === "dry")?.timer;
    expect(timer([plain("rub")])).toBeUndefined();
    expect(timer([plain("wet", { wet: true })])).toEqual({ seconds: 60, name: "drying" });
    expect(plan([plain("wet", { wet: true })]).minutes).toBe(plan([plain("rub")]).minutes + 1);
    expect(plan([plain("wet", { wet: true }), plain("seat", { minutes: 5 })]).minutes).toBe(plan([plain("rub")]).minutes + 5);
  });

  it("has as much left after something was wetted as before, but for the wiping: the wait runs on, and anew where it is wetted anew", () => {
    const parts = [part("lens", { steps: [plain("one", { wet: true }), plain("two", { wet: true, minutes: 0 })] })];
    const { steps } = planRound(parts, { ...frame, dryingSeconds: 600 }, options);
    const last = steps.findIndex((s) => s.id === "dry");
    const left = (done: number, endsMs: number, nowMs: number) => {
      const given = steps.map((s, i): [string, RoundAnswer] => [
        s.id,
        { atMs: 0, ...(i < done ? { done: true } : {}), ...(s.timer ? { timerEndsMs: endsMs } : {}) },
      ]);
      return minutesLeft(steps, new Map(given), nowMs);
    };
    const one = steps.findIndex((s) => s.id === "one");
    const wiped = left(one + 2, 600_000, 0);
    expect(wiped).toBe(left(one, 0, 0) - 1);
    expect(left(one + 2, 600_000, 300_000)).toBe(wiped - 5);
    expect(left(one + 1, 600_000, 300_000)).toBe(wiped);
    expect(left(last, 600_000, 400_000) - left(last, 600_000, 600_000)).toBe(3.5);
    expect(left(last + 1, 600_000, 0)).toBe(left(last + 1, 0, 0));
  });

  it.each(["rear panel", "the rear panel", "its rear panel", "Its own rear panel", "my rear panel"])(
    "names a panel once, however its owner wrote it: %s",
    (panel) => {
      const plan = planRound([part("window", { access: { panel } })], frame, options);
      const said = plan.steps.filter((s) => /rear panel/i.test(s.title)).map((s) => s.title);
      expect(said).toEqual(["Open the rear panel.", "Rear panel on."]);
      // What is opened and what is closed is the same, by the name it was given.
      const moved = plan.steps.flatMap((s) => [s.leaves?.out, s.leaves?.back].filter((x) => x !== undefined));
      expect(new Set(moved)).toEqual(new Set([panel]));
    },
  );

  it("opens a panel once, with its key", () => {
    const access = { panel: "rear panel", keys: "square key", gantry: "gantry at the front" };
    const plan = planRound([part("window", { access }), part("mirror-1", { access })], frame, options);
    const ids = plan.steps.map((s) => s.id);
    expect(ids.filter((id) => id.startsWith("open-") || id.startsWith("close-"))).toEqual(["open-rear-panel", "close-rear-panel"]);
    expect(plan.steps.find((s) => s.id === "open-rear-panel")?.title).toBe("Open the rear panel. Key: square key.");
    expect(plan.steps[0]?.text).toBe("Safe. mirror-1, window: gantry at the front.");
    expect(plan.fetch.keys).toEqual(["square key"]);
    expect(sharedAccess(part("a", { access }), part("b", { access: { panel: "rear panel" } }))).toBe(true);
    expect(sharedAccess(part("a"), part("b"))).toBe(false);
    expect(sharedAccess(part("a", { opensHead: true }), part("b", { atHead: true }))).toBe(true);
  });
});

describe("the walk", () => {
  const steps = [
    plain("make-safe", { tick: "Unplugged", opens: true }),
    plain("look", { kind: "grade" }),
    plain("power-on", { tick: "Covers on" }),
    plain("flow", { tick: "Seen" }),
    plain("proof", { kind: "proof" }),
  ];
  const given = (...given: [string, Partial<RoundAnswer>][]) => new Map(given.map(([id, a], i) => [id, { atMs: i + 1, ...a }]));
  const done = { done: true } as const;

  it("leads no further than the first tick that is missing, and backwards freely", () => {
    expect(furthest(steps, given())).toBe(0);
    expect(furthest(steps, given(["make-safe", { skipped: "I know" }]))).toBe(0);
    expect(furthest(steps, given(["make-safe", done]))).toBe(2);
    expect(furthest(steps, given(["make-safe", done], ["power-on", { skipped: "later" }]))).toBe(2);
    expect(furthest(steps, given(["make-safe", done], ["power-on", done], ["flow", done]))).toBe(4);
  });

  it("holds the proof until every tick was given, skipped ones too", () => {
    const held = (...list: Parameters<typeof given>) => heldBy(steps, given(...list)).map((s) => s.id);
    expect(held(["make-safe", done], ["power-on", { skipped: "later" }], ["flow", done])).toEqual(["power-on"]);
    expect(held(["make-safe", done], ["power-on", done], ["flow", done])).toEqual([]);
  });

  it("is apart until the covers are on, and again once something is opened after that", () => {
    expect(isApart(steps, given())).toBe(true);
    expect(isApart(steps, given(["make-safe", done], ["power-on", { skipped: "no" }]))).toBe(true);
    expect(isApart(steps, given(["make-safe", done], ["power-on", done]))).toBe(false);
    expect(isApart(steps, given(["power-on", done], ["make-safe", done]))).toBe(true);
    expect(isApart(steps.slice(1), given())).toBe(false);
  });
});
