/** Spares on the shelf: a part that was replaced takes one, in the same transaction as its record. */
import type { EventKind } from "#core/events";
import type { Store } from "#store/database";
import { changeMachine } from "#store/machines";
import { startingLayout } from "../machine/trade";

/** Puts a spare back on the shelf whose record of going in was struck. */
export const returnSpare = (tx: Store, machineId: number, station: string): Promise<unknown> =>
  changeMachine(tx, machineId, (now) => {
    const path = now.path ?? startingLayout(now.layout).path;
    if (!path.some((s) => s.id === station && s.spares !== undefined)) return {};
    return { path: path.map((s) => (s.id === station && s.spares !== undefined ? { ...s, spares: s.spares + 1 } : s)) };
  });

/** Counts down the spares of every station that was replaced, as far as its owner counts them. */
export async function takeSpares(
  tx: Store,
  machineId: number,
  events: readonly { readonly kind: EventKind; readonly payload: unknown }[],
): Promise<void> {
  const replaced = new Set(
    events.flatMap((e) => {
      const service = e.kind === "service" ? (e.payload as { what: string; station: string }) : undefined;
      return service?.what === "replaced" ? [service.station] : [];
    }),
  );
  if (replaced.size === 0) return;
  await changeMachine(tx, machineId, (now) => {
    const path = now.path ?? startingLayout(now.layout).path;
    if (!path.some((s) => replaced.has(s.id) && (s.spares ?? 0) > 0)) return {};
    return { path: path.map((s) => (replaced.has(s.id) && (s.spares ?? 0) > 0 ? { ...s, spares: (s.spares as number) - 1 } : s)) };
  });
}
