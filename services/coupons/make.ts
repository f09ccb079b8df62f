/** Makes a test file: what it is drawn from is kept in the log, so that the result can be told on the very drawing. */
import type { FieldErrors } from "#store/check";
import { eventIdOf } from "#store/events";
import { rowKey } from "#store/sent";
import type { Services } from "../context";
import { type FormReader, sentAs } from "../forms/fields";
import { keepEntry } from "../log/keepEntry";
import { findMachine } from "../machine/gather";

export type MadeCoupon = { readonly id: number } | { readonly errors: FieldErrors };

export async function makeCoupon(services: Services, slug: string, reader: FormReader): Promise<MadeCoupon> {
  const entry = await keepEntry(services, slug, reader);
  if (entry.kept === undefined || entry.kept === "meanwhile") return { errors: entry.errors };
  const { machine } = await findMachine(services, slug);
  return { id: await eventIdOf(services.store, machine.id, rowKey(sentAs(`log ${machine.id}`, reader))) };
}
