/** Test support: every place of a machine, read as its pages read it. */
import { EVENT_KINDS } from "#core/events";
import { aimView } from "./aim/aimView";
import { casesView } from "./cases/casesView";
import { caseView } from "./cases/caseView";
import type { Services } from "./context";
import { couponsView } from "./coupons/couponsView";
import { gateView } from "./gate/gateView";
import { kindSeries } from "./log/kindSeries";
import { logView } from "./log/logView";
import { beamLine } from "./machine/beamLine";
import type { Gathered } from "./machine/gathered";
import { mixesView } from "./mixes/mixesView";
import { outlookView } from "./outlook/outlookView";
import { planView } from "./plan/planView";
import { choiceView } from "./rounds/choiceView";
import { sheetView } from "./rounds/sheetView";
import { airView } from "./sums/airView";
import { coolantView } from "./sums/coolantView";
import { washView } from "./sums/washView";
import { suppliesView } from "./supplies/suppliesView";
import { todayView } from "./today/todayView";
import { workshopView } from "./workshop/workshopView";

/** All that a screen could show of a machine. */
export async function everyPlace(services: Services, g: Gathered, caseId: number | undefined): Promise<Record<string, unknown>> {
  const none = new URLSearchParams();
  return {
    today: await todayView(services, g),
    log: await logView(services, g, none),
    narrowed: await logView(services, g, new URLSearchParams({ kind: "cut", station: "lens" })),
    charts: EVENT_KINDS.map((kind) => kindSeries(g, kind)),
    outlook: await outlookView(services, g),
    rounds: await choiceView(services, g, none),
    fullRound: await choiceView(services, g, new URLSearchParams({ scope: "full" })),
    sheet: await sheetView(services, g, new URLSearchParams({ part: "lens" })),
    gate: gateView(g, new URLSearchParams({ materialId: "1", speedMmPerS: "14", setPercent: "60", cutMinutes: "20", lostMinutes: "90" })),
    coupons: couponsView(g, none),
    aim: await aimView(services, g),
    cases: await casesView(services, g),
    case: caseId === undefined ? undefined : await caseView(services, g, caseId, null),
    mixes: mixesView(g),
    coolant: coolantView(g, new URLSearchParams({ roomC: "24", humidity: "60", flowLpm: "2", riseK: "3" })),
    air: airView(g),
    wash: washView(g, none),
    plan: await planView(services, g, new URLSearchParams({ task: "lens" })),
    supplies: await suppliesView(services, g),
    workshop: workshopView(g, "lens"),
    beam: beamLine(g, "x"),
  };
}
