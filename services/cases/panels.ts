/** What a case cannot see: parts behind panels that are not for owners, how likely it is there, and whether its owner may open them. */
import { type PathStation, standing } from "#core/machine";
import type { FieldErrors } from "#store/check";
import { atOnce } from "#store/database";
import { readSetting, writeSettings } from "#store/settings";
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { declinedSetting } from "../machine/settingNames";
import { chance } from "../words";
import { editPath } from "../workshop/path";

/** Kept with what a machine is not asked: its panels stay closed to its owner. */
export const PANELS_CLOSED = "closed-panels";
/** Less than this behind panels is no matter of the case. */
const MATTERS = 0.1;

const closedOf = (g: Gathered): readonly PathStation[] => standing(g.trade.layout.path).filter((s) => s.warranty === true);

/**
 * How likely the trouble is behind closed panels, and who can look there; `ask` until its owner has said once whether they may be opened.
 * Undefined where hardly anything points there. `suspects` are the chances by station that something there is at fault.
 */
export function behindPanels(g: Gathered, suspects: readonly { readonly id: string; readonly probability: number }[]) {
  const closed = closedOf(g);
  const left = closed.reduce((p, s) => p * (1 - (suspects.find((x) => x.id === s.id)?.probability ?? 0)), 1);
  if (closed.length === 0 || 1 - left < MATTERS) return undefined;
  const panels = [...new Set(closed.map((s) => s.panel ?? "panel"))];
  const names = closed.map((s) => s.name).join(", ");
  return {
    words: `Behind the closed ${panels.join(" and ")} (${names}): ${chance(1 - left)}. No check asked here can see it.`,
    who: "The maker's service can look there, or an owner whose manual allows it.",
    ask: !g.declined.includes(PANELS_CLOSED),
  };
}

/** Keeps what its owner said: that the panels stay closed, or may be opened; then what lies behind them is asked like all else. */
export async function answerPanels(services: Services, g: Gathered, mayOpen: boolean): Promise<FieldErrors | undefined> {
  if (mayOpen) {
    const edited = await editPath(services, g.machine, (path) => path.map(({ warranty: _, ...s }) => s), "Panels may be opened.");
    if ("errors" in edited) return { "": Object.values(edited.errors).join(" ") };
  }
  await keep(services, g, !mayOpen);
  return undefined;
}

/** Takes back that the panels stay closed: the next case that needs it asks once more. */
export const askPanelsAgain = (services: Services, g: Gathered): Promise<void> => keep(services, g, false);

async function keep(services: Services, g: Gathered, isClosed: boolean): Promise<void> {
  const setting = declinedSetting(g.machine.id);
  await atOnce(services.store, async (tx) => {
    const others = ((await readSetting<string[]>(tx, setting)) ?? []).filter((id) => id !== PANELS_CLOSED);
    await writeSettings(tx, { [setting]: isClosed ? [...others, PANELS_CLOSED] : others });
  });
}
