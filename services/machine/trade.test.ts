import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { agents, matrix } from "#catalog/agents";
import { layouts } from "#catalog/layouts";
import { scopes } from "#catalog/procedures";
import { repairOf } from "#catalog/subjects/index";
import { mayUse } from "#core/agents";
import { BEARINGS, BEDS, COATINGS, COOLINGS, EXTRAS, type Fittings, LAYOUT_IDS, LIDS, MOUNTS, type PathStation } from "#core/machine";
import type { Step } from "#core/rounds";
import { DRAWING_IDS } from "../../app/ui/Drawing";
import { partsOfRepair, partsOfScope, planOf, procedureOf } from "./plans";
import { type MachineShape, type Trade, tradeOf } from "./trade";

const ids = Object.keys(layouts);
const of = (layout: string) => layouts[layout] as (typeof layouts)[string];
const allSteps = (trade: Trade): Step[] => [
  ...[...trade.procedures.values()].flatMap((p) => p.steps),
  ...Object.values(trade.frame).flatMap((f) => (Array.isArray(f) ? f : typeof f === "object" && "id" in f ? [f] : [])),
];

/** Each layout as it comes, with everything fitted in every kind, with every mount and coating, and with one agent on the shelf at a time. */
function shapes(layout: string): MachineShape[] {
  const { path, fittings } = of(layout);
  const kinds = [...BEARINGS.keys()].map((i) => ({
    ...fittings,
    bearing: BEARINGS[i] as Fittings["bearing"],
    cooling: COOLINGS[i % COOLINGS.length] as Fittings["cooling"],
    lid: LIDS[i % LIDS.length] as Fittings["lid"],
    bed: BEDS[i % BEDS.length] as Fittings["bed"],
    extras: [...EXTRAS],
  }));
  const built = MOUNTS.flatMap((mount) =>
    COATINGS.map((coating) => path.map((s) => (s.role === "mirror" ? ({ ...s, mount, coating } as PathStation) : s))),
  );
  const lenses = MOUNTS.map((mount) => path.map((s) => (s.role === "lens" ? ({ ...s, mount } as PathStation) : s)));
  return [
    { layout },
    ...kinds.map((f) => ({ layout, fittings: f })),
    ...[...built, ...lenses].map((p) => ({ layout, path: p })),
    ...agents.map((a) => ({ layout, fittings: { ...(kinds[0] as Fittings), agents: [a.id] } })),
  ];
}

describe("what a step asks for", () => {
  it.each(ids)("is never refused by the matrix, on any machine built from %s, whatever is on the shelf", (layout) => {
    const used = new Set<string>();
    for (const shape of shapes(layout)) {
      for (const step of allSteps(tradeOf(shape))) {
        for (const a of step.agents ?? []) {
          used.add(a.id);
          const ruling = mayUse(matrix, step.surface as string, a.id);
          expect(ruling.verdict, `${step.id}: ${a.id} on ${step.surface}`).not.toBe("never");
          // What is allowed under a condition only, its step states: acetone at the nozzle, what etches on a bed that stood it.
          if (ruling.verdict === "only-if")
            expect(`${ruling.needs} ${step.title} ${step.caution}`).toMatch(
              /lens-out .*while the lens is out|patch-tested .*corner stood|outdoors .*outdoors/,
            );
          expect(step.refused?.map((r) => r.name) ?? []).not.toContain(a.name);
        }
      }
    }
    expect(used.size).toBeGreaterThan(15);
  });

  it("is never named in its words where its surface refuses it", () => {
    const risky = /\b(acetone|vinegar|ammonia|paper towel)\b/i;
    for (const layout of ids) {
      for (const step of allSteps(tradeOf({ layout }))) {
        const match = risky.exec(`${step.title} ${step.text}`);
        if (match) expect(`${step.id}: ${step.title} ${step.text}`).toMatch(/no alcohol|never|no glass cleaner|craze/i);
      }
    }
  });

  it("has a drawing for every drawing it names", () => {
    for (const layout of ids) for (const s of allSteps(tradeOf({ layout }))) if (s.drawing) expect(DRAWING_IDS, s.id).toContain(s.drawing);
  });
});

/** What must be in the steps, by the part they belong to: the meaning, in as few words as it can be told by. */
const POINTS: readonly (readonly [layout: string, part: string, ...words: readonly RegExp[]])[] = [
  ["three-mirror", "lens", /\bring\b/, /edge/, /inspect/i, /order of the parts/, /upside down/, /tap the holder/, /cobwebs/, /rattle/],
  ["three-mirror", "lens", /seats/, /edge-gripping/, /bulging side .*looks up/, /concave up/, /toxic/, /lens wipe/, /soak it once more/],
  ["moving-head", "lens", /two-ended/, /clicks/, /seats/, /slides in its bore/, /arrow/, /no arrow/],
  ["three-mirror", "lens-look", /Nobody sees a lens through a 2.5 mm nozzle/, /lens tube/, /mark/],
  ["moving-head", "lens-look", /3 mm nozzle/, /past the mirror/],
  ["three-mirror", "mirror-3", /cap/, /stamp or notch/, /burns the holder/, /take a photo and stop/, /again/],
  ["three-mirror", "mirror-2", /slowly by hand/, /do not touch its screws/i, /lens wipe/],
  ["periscope", "mirror-2", /captive screws/, /keeps the alignment/, /into its seat/],
  ["periscope", "mirror-3", /twist/i],
  ["periscope", "mirror-4", /magnet/, /up and down, left and right/, /flush and centred/],
  ["periscope", "side-window", /inner face/, /outer face/, /while the mirror before it is out/],
  ["three-mirror", "window", /alcohol only/, /long handle/, /no pressure/, /cracks behind the dirt/, /dry one/],
  ["three-mirror", "nozzle", /outside/, /twist/i, /2\.5 mm drill/, /by hand/, /acrylic/],
  ["three-mirror", "air", /press the collar/i, /swab the end/i, /pump's filter/, /tug/],
  ["moving-head", "air", /carriage plate and the shroud/],
  ["three-mirror", "air-feel", /feel/i, /flow meter/, /nothing queued/, /hot/],
  ["three-mirror", "rails", /ends of travel/, /dry/, /slowly/],
  ["three-mirror", "lubricate", /dry film/],
  ["periscope", "lubricate", /white grease/],
  ["moving-head", "lubricate", /silicone/],
  ["three-mirror", "belts", /wipe/i, /tension/, /never pry/],
  ["periscope", "encoder", /in their holes/, /without touching the strip/, /square/, /count them/, /cannot snag/, /fingertip/, /blotches/i],
  ["periscope", "encoder-reader", /fifth to tenth/, /torch through the slot/],
  ["periscope", "bearings", /bearing grease/, /end to end/],
  [
    "three-mirror",
    "bed",
    /out of the machine/,
    /water only/,
    /four sides/,
    /fifteen to twenty minutes/,
    /turn it over/i,
    /stains that stay/i,
  ],
  ["three-mirror", "bed", /consumable/, /dirty jobs/, /missed/, /etched/, /upwind/],
  ["three-mirror", "tray", /embers/, /mask/, /floor under the bed/, /screws/],
  ["three-mirror", "inline-fan", /unplug/i, /terminal box/, /flow arrow/, /rotor: it can drop/, /both sides/, /wobble/],
  ["three-mirror", "inline-fan", /away from the machine/, /both clamps on both flanges/, /tug/i, /draws/],
  ["three-mirror", "cabinet-fan", /blade/, /guard/, /never spray a motor/i],
  ["three-mirror", "duct", /vacuum the duct/i, /sharp/],
  ["three-mirror", "exhaust-draws", /draws/, /tissue/],
  ["moving-head", "filter-unit", /own display/],
  ["three-mirror", "coolant-change", /unplug the pump/i, /return line/, /pail/, /draws air/, /unplug it again/, /glycol first/],
  [
    "three-mirror",
    "coolant-change",
    /distilled/,
    /top up/,
    /tilt/,
    /bubble/,
    /lid on the bucket/,
    /local rules/,
    /far less toxic/,
    /disarmed/,
  ],
  ["moving-head", "coolant-change", /drain/i, /maker's manual/],
  ["three-mirror", "tube-look", /wires and hoses/, /cracks/, /scorch/, /dust/i],
  ["periscope", "fins", /low-pressure air through the fins/],
  ["moving-head", "camera", /camera lens/, /homing mark/, /two small windows/, /contacts/],
  ["moving-head", "head-fan", /stop to cool/],
  ["three-mirror", "controller", /99/, /one-offs/],
  [
    "three-mirror",
    "visit",
    /high-voltage/,
    /not marked for users/,
    /lead screws/,
    /interlocks/,
    /tube swap/,
    /remote session/,
    /cost/,
    /inside mirrors/,
  ],
  ["three-mirror", "replace-lens", /source and grade/, /before and after/],
];

/** Of every machine: what needs the pump, the fan or the beam is asked for with power on, and what is put on is fetched. */
describe("a step that speaks of something running", () => {
  it.each(ids)("on %s has power", (layout) => {
    const running = /pump runs|return line runs|bubbles pass|switch the fan on|give a short pulse|engrave a filled|cut a row|cut a small/i;
    for (const step of allSteps(tradeOf({ layout })))
      if (running.test(`${step.title} ${step.text}`)) expect(step.needs?.power, `${step.id}: ${step.text}`).toBe("on");
  });
});

describe("the procedures", () => {
  it.each(POINTS.map(([layout, part, ...words]) => [layout, part, words] as const))("say every point on %s: %s", (layout, part, words) => {
    const procedure = procedureOf(
      tradeOf({ layout, fittings: { ...of(layout).fittings, extras: [...of(layout).fittings.extras, "prefilter"] } }),
      part,
    );
    const said = procedure?.steps.map((s) => [s.title, s.text, s.caution].join(" ")).join(" ");
    for (const w of words) expect(said).toMatch(w);
  });

  it("never open what is not for owners, whatever is asked for: that is booked, and said to be done", () => {
    const burdock = tradeOf({ layout: "periscope" });
    const every = [...burdock.procedures.keys(), ...burdock.model.repairs.map((r) => r.id)];
    fc.assert(
      fc.property(fc.subarray(every), (parts) => {
        const { steps } = planOf(burdock, parts, { isRepair: true });
        expect(steps.map((s) => s.id)).not.toContain("open-lower-side-panel");
        for (const s of steps) if (/^(window|mirror-1|[a-z-]+@1)\./.test(s.id)) expect(s.id).toMatch(/\.booked$/);
      }),
    );
    const booked = planOf(burdock, partsOfRepair(burdock, "clean-mirror@1"), { isRepair: true });
    expect(booked.apart).toBe(false);
    expect(booked.steps[0]).toMatchObject({ title: "Lower mirror: for the maker's service.", service: { what: "cleaned" } });
    // Its tape would go onto the mirror behind that panel.
    expect(procedureOf(burdock, "aim@0")?.byOthers).toBe(true);
    expect(procedureOf(burdock, "aim@2")?.byOthers).toBeUndefined();
  });

  it("reach parts the way the machine is built: mirrors in place or out by their mount", () => {
    const burdock = tradeOf({ layout: "periscope" });
    expect(planOf(burdock, ["mirror-2"]).steps[0]?.text).toMatch(/jogged to the service position/);
    expect(planOf(burdock, ["mirror-2", "side-window"]).fetch.keys).toEqual(["cabinet key"]);
    const stays = (mount: PathStation["mount"]) => {
      const path = of("three-mirror").path.map((s) => (s.id === "mirror-2" ? { ...s, mount } : s));
      return !planOf(tradeOf({ layout: "three-mirror", path }), ["mirror-2"]).steps.some((s) => s.id === "near-far");
    };
    expect((["screw-cell", "fixed", "twist-lock", "captive", "magnet"] as const).map(stays)).toEqual([true, true, false, false, false]);
  });

  it.each(ids)("carry out every repair of %s, each with a name", (layout) => {
    const trade = tradeOf({ layout });
    for (const repair of trade.model.repairs) {
      expect(repairOf(repair.id.replace(/@\d+$/, "@k")), repair.id).toBeDefined();
      for (const part of partsOfRepair(trade, repair.id)) expect(procedureOf(trade, part), `${repair.id}: ${part}`).toBeDefined();
    }
  });
});

/** What a walk through a plan does when everything is found as bad as cleaning can mend. */
const worstWalk = (plan: ReturnType<typeof planOf>) => plan.steps.map((s) => s.id);

describe("any round", () => {
  const plans = fc.constantFrom(...ids).chain((layout) => {
    const parts = [...tradeOf({ layout }).procedures.keys()];
    return fc.record({
      layout: fc.constant(layout),
      parts: fc.subarray([...parts, "lens+", "nozzle+"], { minLength: 1 }),
      direction: fc.constantFrom("head-first" as const, "tube-first" as const),
    });
  });

  it("is safe first, asks nothing twice and nothing by what comes later, and is proven last", () => {
    fc.assert(
      fc.property(plans, ({ layout, parts, direction }) => {
        const trade = tradeOf({ layout });
        const plan = planOf(trade, parts, { direction });
        const walk = worstWalk(plan);
        const at = (id: string) => walk.indexOf(id);
        expect(new Set(walk).size).toBe(walk.length);
        expect(plan.steps.filter((s) => s.kind === "proof").map((s) => s.id)).toEqual([walk.at(-1)]);
        if (plan.apart) expect(walk[0]).toBe("make-safe");
        expect(walk.filter((id) => /^aim-check$|aim-check.marks|near-far$/.test(id)).length).toBeLessThanOrEqual(1);
        plan.steps.forEach((step, i) => {
          for (const need of step.when ?? []) expect(at(need.step), `${step.id} asked by ${need.step}`).toBeLessThan(i);
          if (step.when) expect(step.when.every((n) => at(n.step) >= 0)).toBe(true);
        });
        // What a panel hides is done while it is open, and power comes after the last cover.
        for (const open of walk.filter((id) => id.startsWith("open-"))) {
          expect(at(open.replace("open-", "close-"))).toBeGreaterThan(at(open));
          expect(at("power-on")).toBeGreaterThan(at(open.replace("open-", "close-")));
        }
        for (const step of plan.steps) {
          const panel = trade.layout.path.find((s) => s.id === step.station)?.panel;
          const procedure = trade.procedures.get(step.id.split(".")[0] ?? "");
          if (!panel || !procedure || procedure.area === "running" || !procedure.access?.panel) continue;
          expect(at(`open-${panel.replaceAll(" ", "-")}`), step.id).toBeLessThan(at(step.id));
        }
      }),
      { numRuns: 25 },
    );
  });

  it("cleans nothing above or below a lens in its seat, and looks at its way round before the head is closed", () => {
    fc.assert(
      fc.property(plans, ({ layout, parts, direction }) => {
        const trade = tradeOf({ layout });
        const plan = planOf(trade, parts, { direction });
        const head = plan.steps.filter((s) => {
          const p = trade.procedures.get(s.id.split(".")[0] ?? "");
          return p !== undefined && p.area === "optics" && (p.atHead || p.id === "nozzle") && s.kind !== "grade";
        });
        const at = (step: Step) => plan.steps.indexOf(step);
        const out = plan.steps.findIndex((s) => /\.(carriage-|bore-)?out$/.test(s.id) && s.station === "lens");
        const back = plan.steps.findIndex((s) => /\.(carriage-|bore-)?in$/.test(s.id) && s.station === "lens");
        for (const step of head) {
          expect(out, step.id).toBeGreaterThanOrEqual(0);
          expect(at(step), step.id).toBeGreaterThan(out);
          expect(at(step), step.id).toBeLessThan(back);
          // Whatever asks for the clean asks for the lens to come out as well.
          const asks = plan.steps[out]?.when;
          if (asks)
            for (const need of step.when ?? [])
              if (!need.step.startsWith(`${step.id.split(".")[0]}.left`)) expect(asks).toContainEqual(need);
          if (asks) expect(step.when).toBeDefined();
        }
        const closed = plan.steps.findIndex((s) => s.id === "head-together" || s.id === "head-cap-on");
        if (back >= 0) expect(closed).toBeGreaterThan(back);
        // The reader is off before its strip is wiped, and on after its slot was drawn through.
        const ids = plan.steps.map((s) => s.id);
        if (ids.includes("encoder.strip")) {
          expect(ids.indexOf("encoder.reader-off")).toBeLessThan(ids.indexOf("encoder.strip"));
          expect(ids.indexOf("encoder.back")).toBeGreaterThan(
            ids.indexOf(ids.includes("encoder-reader.slot") ? "encoder-reader.slot" : "encoder.strip"),
          );
        }
      }),
      { numRuns: 25 },
    );
  });
});

describe("a round of a scope", () => {
  const nothing = new Set<string>();
  const MOST = { daily: 6, weekly: 35, monthly: 75, full: 110 } as const;
  it.each(ids.flatMap((layout) => scopes.map((s) => [layout, s.id] as const)))("%s, %s: takes no longer than it may", (layout, id) => {
    const trade = tradeOf({ layout });
    const scope = scopes.find((s) => s.id === id) as (typeof scopes)[number];
    const plan = planOf(trade, partsOfScope(trade, scope, nothing), { direction: scope.order });
    expect(plan.minutes).toBeLessThanOrEqual(MOST[id]);
    if (id === "daily") expect(plan.steps.filter((s) => s.when === undefined).length).toBeLessThanOrEqual(9);
    // No owner is led behind a panel that is not theirs to open.
    expect(plan.steps.filter((s) => s.caution?.includes("not meant for owners"))).toEqual([]);
  });

  it.each(ids)("%s: only the lens is done in twelve minutes", (layout) => {
    expect(planOf(tradeOf({ layout }), ["lens"]).minutes).toBeLessThanOrEqual(12);
  });

  it("goes through the optics in the school's direction, each panel opened once", () => {
    const larkspur = tradeOf({ layout: "three-mirror" });
    const optics = ["lens", "nozzle", "mirror-3", "mirror-2", "mirror-1", "window"];
    const order = (direction: "head-first" | "tube-first", trade = larkspur) =>
      planOf(trade, optics, { direction }).steps.flatMap((s) => (s.phase === "as-found" ? [s.station] : []));
    expect(order("tube-first")).toEqual(["window", "mirror-1", "mirror-2", "lens", "mirror-3"]);
    expect(order("head-first")).toEqual(["lens", "mirror-3", "mirror-2", "mirror-1", "window"]);
    const fixed = tradeOf({ layout: "three-mirror", fittings: { ...of("three-mirror").fittings, opticsOrder: "tube-first" } });
    expect(order("head-first", fixed)).toEqual(order("tube-first"));
    const opened = planOf(larkspur, optics).steps.filter((s) => s.id.startsWith("open-"));
    expect(opened.map((s) => s.id)).toEqual(["open-rear-panel"]);
  });

  it("says what is not on the shelf", () => {
    const fittings = { ...of("three-mirror").fittings, agents: ["isopropyl", "fresh-swab"] };
    const trade = tradeOf({ layout: "three-mirror", fittings });
    const { agents, maybe } = planOf(trade, ["lens"]).fetch;
    for (const list of [
      maybe,
      planOf(trade, ["lens"], { grades: new Map([["lens", { grade: 2 as const, atMs: 0, phase: "as-found" as const }]]) }).fetch.agents,
    ]) {
      expect(list?.find((a) => a.name.includes("isopropyl"))).toMatchObject({ missing: false });
      expect(list?.find((a) => a.name === "lens tissue")).toMatchObject({ missing: true });
    }
    // A clean that only its look asks for is not fetched for.
    expect(agents.map((a) => a.name)).not.toContain("lens tissue");
  });
});

describe("a part that is in the hand anyway", () => {
  it.each(LAYOUT_IDS)("is looked at in every repair that takes it out and puts the same one back, on %s", (layout) => {
    const trade = tradeOf({ layout });
    const seats = [...trade.procedures.values()].filter(
      (p) => p.isRepair && !p.byOthers && /^(turn-lens|seat-lens|seat-mirror)/.test(p.id),
    );
    expect(seats.length).toBeGreaterThan(2);
    for (const p of seats) {
      const kinds = p.steps.map((s) => `${s.kind} ${s.phase ?? ""} ${s.service?.what ?? ""}`.trim());
      expect(
        kinds.some((k) => k.startsWith("grade as-found")),
        p.id,
      ).toBe(true);
      expect(
        kinds.some((k) => k.endsWith("cleaned")),
        p.id,
      ).toBe(true);
    }
  });
});
