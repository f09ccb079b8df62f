/** One log record as a line of words. */
import type { EventKind, EventOf, MachineEvent } from "#core/events";
import type { Gathered } from "../machine/gathered";
import { eventKinds } from "./kinds";
import type { EventKindDefinition } from "./kinds/definition";

/** The definition that fits a record: they are kept by kind, which the compiler cannot follow from the record alone. */
export const definitionOf = <K extends EventKind>(event: EventOf<K>) => eventKinds[event.kind] as unknown as EventKindDefinition<K>;

export function describeEvent(event: MachineEvent, g: Gathered): { what: string; text: string } {
  const { name, says } = definitionOf(event);
  const note = event.kind !== "note" && event.payload.note ? ` “${event.payload.note}”` : "";
  return { what: name, text: `${says(event, g)}${note}` };
}
