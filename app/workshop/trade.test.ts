import { describe, expect, it } from "vitest";
import { agents, matrix } from "#catalog/agents";
import { repairWords } from "#catalog/faultWords";
import { layouts } from "#catalog/layouts";
import { scopes } from "#catalog/procedures";
import { mayUse } from "#core/agents";
import { BEARINGS, BEDS, COATINGS, COOLINGS, EXTRAS, type Fittings, LIDS, MOUNTS, type PathStation } from "#core/machine";
import type { Step } from "#core/rounds";
import { DRAWING_IDS } from "../ui/Drawing";
import { type MachineShape, partsOfRepair, partsOfScope, planOf, procedureOf, type Trade, tradeOf } from "./trade";

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
          // Acetone at the nozzle is the one thing allowed under a condition, and its step states it.
          if (ruling.verdict === "only-if") expect(`${ruling.needs} ${step.caution}`).toMatch(/lens-out .*while the lens is out/);
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

/** The points that must be in the steps, by the part they belong to, in words that would be missed. */
const POINTS: readonly (readonly [layout: string, part: string, ...words: readonly RegExp[]])[] = [
  [
    "three-mirror",
    "lens",
    /ring out/i,
    /edge/i,
    /look/i,
    /stack/i,
    /upside down/,
    /tap the holder, never poke/i,
    /cobwebs, shavings/i,
    /must not rattle/,
    /come out tomorrow/,
    /focal seats/i,
    /edge-gripping/i,
    /bulg/i,
    /toxic/i,
  ],
  ["moving-head", "lens", /two-ended/i, /clicks/, /until it seats/, /slides in its bore/i, /arrow/i],
  ["three-mirror", "mirror-3", /cap or two screws/i, /stamp or notch/i, /burns the holder/i, /photo, and stop/i],
  ["three-mirror", "mirror-2", /slowly by hand/i, /never touch its screws/i],
  ["periscope", "mirror-1", /captive screws/i, /keeps its aim/i, /into its seat/i],
  ["periscope", "mirror-3", /twist/i],
  ["periscope", "mirror-4", /magnet/i, /wiggle up and down, left and right/i, /flush and centred/i],
  ["periscope", "side-window", /inner face/i, /two faces/i, /mirror before it is out/i],
  ["three-mirror", "window", /alcohol only/i, /cut short/i, /no pressure/i, /cracks behind the debris/i, /a dry one/i],
  ["three-mirror", "nozzle", /outside/i, /twist/i, /2\.5 mm drill/, /acrylic makes gum fast/i],
  ["three-mirror", "air", /press the collar/i, /swab the end/i, /pump's filter/i, /tug/i],
  ["moving-head", "air", /carriage plate and shroud/i],
  ["three-mirror", "air-feel", /feel/i, /flow meter/i],
  ["three-mirror", "rails", /ends of travel/i, /dry/i, /slowly/i],
  ["three-mirror", "lubricate", /dry film/i],
  ["periscope", "lubricate", /white grease/i],
  ["moving-head", "lubricate", /silicone/i],
  ["three-mirror", "belts", /wipe/i, /tension/i, /never pry/i],
  [
    "periscope",
    "encoder",
    /loosen, don't remove/i,
    /without touching the strip/i,
    /square/i,
    /not into the tray/i,
    /cannot snag/i,
    /fingertip/i,
    /blotches/i,
  ],
  ["periscope", "encoder-reader", /fifth to tenth/i],
  ["periscope", "bearings", /bearing grease/i, /back and forth|end to end/i],
  [
    "three-mirror",
    "bed",
    /out of the machine/i,
    /water only/i,
    /four sides/i,
    /fifteen to twenty minutes/i,
    /turn it over/i,
    /rinse/i,
    /stains that stay are fine/i,
    /consumable/i,
    /dirty jobs/i,
  ],
  ["three-mirror", "tray", /embers/i, /mask/i, /floor under the bed/i],
  [
    "three-mirror",
    "inline-fan",
    /unplug/i,
    /terminal box/i,
    /flow arrow/i,
    /rotor: it can drop/i,
    /both sides/i,
    /no wobble/i,
    /away from the machine/i,
    /both clamps on both flanges/i,
    /tug/i,
    /draws/i,
  ],
  ["three-mirror", "cabinet-fan", /blades and guard/i, /never spray a motor/i],
  ["three-mirror", "duct", /vacuum the duct/i, /sharp/i],
  ["three-mirror", "exhaust-draws", /check that it draws/i],
  ["moving-head", "filter-unit", /own display/i],
  [
    "three-mirror",
    "coolant-change",
    /pump unplugged/i,
    /return line/i,
    /pail/i,
    /draws air/i,
    /unplug it again/i,
    /glycol first/i,
    /distilled/i,
    /top up/i,
    /tilt/i,
    /bubble/i,
    /lid on the bucket/i,
    /local rules/i,
    /far less toxic/i,
  ],
  ["three-mirror", "tube-look", /wires, hoses, cracks, scorch marks/i, /dust/i],
  ["periscope", "fins", /low-pressure air through the fins/i],
  ["moving-head", "camera", /camera lens/i, /homing mark/i, /two small windows/i, /contacts/i, /homing hunt/i],
  ["moving-head", "head-fan", /stop to cool/i],
  ["three-mirror", "controller", /99/, /one-offs/i],
  [
    "three-mirror",
    "visit",
    /high-voltage/i,
    /not marked for users/i,
    /lead screws/i,
    /interlocks/i,
    /tube swap/i,
    /remote session/i,
    /cost/i,
    /dust in the supply/i,
    /inside mirrors/i,
  ],
  ["three-mirror", "replace-lens", /source and grade/i, /ladder before and after/i],
];

describe("the procedures", () => {
  it.each(POINTS.map(([layout, part, ...words]) => [layout, part, words] as const))("say every point on %s: %s", (layout, part, words) => {
    const procedure = procedureOf(
      tradeOf({ layout, fittings: { ...of(layout).fittings, extras: [...of(layout).fittings.extras, "prefilter"] } }),
      part,
    );
    const said = procedure?.steps.map((s) => [s.title, s.text, s.caution].join(" ")).join(" ");
    for (const w of words) expect(said).toMatch(w);
  });

  it("reach parts the way the machine is built: panels flagged, mirrors in place or out by their mount", () => {
    const burdock = tradeOf({ layout: "periscope" });
    expect(planOf(burdock, ["mirror-1"]).steps.find((s) => s.id.startsWith("open-"))?.caution).toMatch(/may touch the warranty/);
    expect(planOf(burdock, ["mirror-1"]).steps[0]?.text).toMatch(/jogged to the service position/);
    expect(planOf(burdock, ["mirror-1", "mirror-2"]).fetch.keys).toEqual(["cabinet key"]);
    const stays = (mount: PathStation["mount"]) => {
      const path = of("three-mirror").path.map((s) => (s.id === "mirror-2" ? { ...s, mount } : s));
      return !planOf(tradeOf({ layout: "three-mirror", path }), ["mirror-2"]).steps.some((s) => s.id === "aim-check");
    };
    expect((["screw-cell", "fixed", "twist-lock", "captive", "magnet"] as const).map(stays)).toEqual([true, true, false, false, false]);
  });

  it.each(ids)("carry out every repair of %s, each with a name", (layout) => {
    const trade = tradeOf({ layout });
    for (const repair of trade.model.repairs) {
      expect(repairWords[repair.id.replace(/@\d+$/, "@k")], repair.id).toBeDefined();
      for (const part of partsOfRepair(trade, repair.id)) expect(procedureOf(trade, part), `${repair.id}: ${part}`).toBeDefined();
    }
  });
});

describe("a round of a scope", () => {
  const nothing = new Set<string>();
  it.each(ids.flatMap((layout) => scopes.map((s) => [layout, s.id] as const)))(
    "%s, %s: safe first, dirt before hands before optics, proof last",
    (layout, id) => {
      const trade = tradeOf({ layout });
      const scope = scopes.find((s) => s.id === id) as (typeof scopes)[number];
      const plan = planOf(trade, partsOfScope(trade, scope, nothing), scope.order);
      const at = (step: string) => plan.steps.findIndex((s) => s.id === step);
      expect(plan.steps[0]?.id).toBe("make-safe");
      expect(plan.steps.at(-1)?.kind).toBe("proof");
      expect(new Set(plan.steps.map((s) => s.id)).size).toBe(plan.steps.length);
      expect(plan.minutes).toBeLessThanOrEqual({ quick: 12, daily: 45, weekly: 80, monthly: 130, full: 140 }[id]);
      if (id === "quick") return;
      expect(at("hands")).toBeGreaterThan(at("tray.vacuum"));
      expect(at("lens.found")).toBeGreaterThan(at("hands"));
      expect(at("power-on")).toBeGreaterThan(at("lens.found"));
      expect(at("power-back")).toBeGreaterThan(at("power-on"));
      // Flammables were used: power waits until they have dried.
      expect(plan.steps[at("power-on")]?.timer).toMatchObject({ seconds: 600, name: "drying" });
    },
  );

  it("goes through the optics in the school's direction, each panel opened once and closed before power", () => {
    const burdock = tradeOf({ layout: "periscope" });
    const optics = ["lens", "nozzle", "mirror-4", "mirror-1", "mirror-2", "side-window", "window"];
    const order = (direction: "head-first" | "tube-first") =>
      planOf(burdock, optics, direction).steps.flatMap((s) => (s.phase === "as-found" ? [s.station] : []));
    expect(order("tube-first").slice(0, 2)).toEqual(["window", "mirror-1"]);
    expect(order("head-first").slice(0, 2)).toEqual(["lens", "mirror-4"]);
    const plan = planOf(burdock, optics, "tube-first").steps.map((s) => s.id);
    const opened = plan.filter((s) => s.startsWith("open-"));
    expect(opened).toEqual(["open-lower-side-panel", "open-upper-side-panel"]);
    for (const o of opened) expect(plan.indexOf(o.replace("open", "close"))).toBeGreaterThan(plan.indexOf(o));
    const fixed = tradeOf({ layout: "periscope", fittings: { ...of("periscope").fittings, opticsOrder: "tube-first" } });
    expect(planOf(fixed, optics, "head-first").steps.map((s) => s.id)).toEqual(plan);
  });

  it("says what is not on the shelf", () => {
    const fittings = { ...of("three-mirror").fittings, agents: ["isopropyl", "fresh-swab"] };
    const { agents: list } = planOf(tradeOf({ layout: "three-mirror", fittings }), ["lens"]).fetch;
    expect(list.find((a) => a.name.includes("isopropyl"))).toMatchObject({ missing: false });
    expect(list.find((a) => a.name === "lens tissue")).toMatchObject({ missing: true });
  });
});
