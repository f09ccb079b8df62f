/** Whether all that a file or a copy brings can be read: asked before any of it counts, so that no page is broken by it for good. */
import { listMachines } from "#store/machines";
import { findRound } from "#store/rounds";
import { casesView } from "../cases/casesView";
import { weighed } from "../cases/weighed";
import type { Services } from "../context";
import { offerOf } from "../rounds/offer";
import { scopeChoices } from "../rounds/scopes";
import { beamLine } from "./beamLine";
import { gather } from "./gather";
import { planOfRound } from "./plans";

/** What was brought cannot be read, and whose it is. */
export class Unsound extends Error {
  override readonly name = "Unsound";
}

/** Reads every machine as its pages do. Throws Unsound for the first that cannot be. */
export async function everyMachineCanBeRead(services: Services): Promise<void> {
  for (const { id, slug, name } of await listMachines(services.store)) {
    try {
      const g = await gather(services, slug);
      beamLine(g, "");
      offerOf(g);
      scopeChoices(g);
      void g.condition;
      const round = g.openRound && (await findRound(services.store, id, g.openRound.id));
      if (round) planOfRound(g.trade, round);
      await casesView(services, g);
      for (const c of g.openCases) await weighed(services, g, c);
    } catch (error) {
      throw new Unsound(`${name} could not be read from it. Nothing was taken in.`, { cause: error });
    }
  }
}
