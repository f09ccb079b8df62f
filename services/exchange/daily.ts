/**
 * Copies by themselves: one a day, beside the database and, where its owner named one, in a folder elsewhere (a stick, a share); each opened
 * again before it counts. Seven days and eight weeks are kept. What failed is on Today until one succeeds.
 */
import { accessSync, constants, statSync } from "node:fs";
import { isAbsolute } from "node:path";
import { DAY_MS } from "#core/time";
import { checkBackup, copiesOf, listCopies, makeCopy, removeCopy } from "#store/backups";
import { dropSetting, readSetting, writeSettings } from "#store/settings";
import { isTrouble } from "#store/trouble";
import type { Services } from "../context";

/** Settings of this computer alone: they are no part of a workshop, and stay when a copy is taken back. */
export const COPIES_FOLDER = "copies-folder";
export const COPY_TROUBLE = "copy-trouble";

export interface CopyTrouble {
  readonly atMs: number;
  readonly words: string;
}

const DAILY = "daily";
const DAYS = 7;
const WEEKS = 8;

const dayOf = (ms: number) => Math.floor(ms / DAY_MS);
/** Weeks begin on a Monday; the first of 1970 was a Thursday. */
const weekOf = (ms: number) => Math.floor((dayOf(ms) + 3) / 7);

/** Those of some copies that are kept: the newest of each of the last days and of the last weeks there is one of. Times in ms. */
export function keptOf<C extends { readonly atMs: number }>(copies: readonly C[]): C[] {
  const newest = [...copies].sort((a, b) => b.atMs - a.atMs);
  const firstOf = (span: (ms: number) => number, most: number) => {
    const seen = new Map<number, C>();
    for (const c of newest) if (!seen.has(span(c.atMs)) && seen.size < most) seen.set(span(c.atMs), c);
    return [...seen.values()];
  };
  const kept = new Set([...firstOf(dayOf, DAYS), ...firstOf(weekOf, WEEKS)]);
  return newest.filter((c) => kept.has(c));
}

/** Why a folder cannot take copies, in words; undefined where it can. */
export function folderProblem(folder: string): string | undefined {
  if (!isAbsolute(folder)) return "Write the whole path, from the root on: /media/stick/clenor would be right.";
  try {
    if (!statSync(folder).isDirectory()) return "That is a file. A folder would be right.";
    accessSync(folder, constants.W_OK | constants.X_OK);
    return undefined;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === "ENOENT"
      ? "There is no such folder on this computer. Is the stick in, or the share connected?"
      : "This folder cannot be written. Choose another, or let Clenor write there.";
  }
}

/** Makes the copy of the day where there is none yet, in every place. What fails is noted; the other places are tried all the same. */
export async function copyDaily(services: Pick<Services, "store" | "folder" | "nowMs">): Promise<void> {
  const { store, folder, nowMs } = services;
  const now = nowMs();
  const machines = await store.selectFrom("machine").select("id").execute();
  // Nothing to keep, and nothing to push what is kept out with.
  if (machines.length === 0) return;
  const own = await readSetting<string>(store, COPIES_FOLDER);
  const failed: string[] = [];
  for (const place of [copiesOf(folder), ...(own === undefined ? [] : [own])]) {
    try {
      const problem = place === own ? folderProblem(place) : undefined;
      if (problem !== undefined) throw new Error(problem);
      const daily = () => listCopies(place).filter((c) => c.name.startsWith(`${DAILY}-`));
      if (daily().some((c) => dayOf(c.atMs) === dayOf(now))) continue;
      const name = await makeCopy(store, place, now, DAILY);
      if ((await checkBackup(place, name)) !== machines.length) throw new Error("It could not be read back.");
      const kept = new Set(keptOf(daily()).map((c) => c.name));
      for (const c of daily()) if (!kept.has(c.name)) removeCopy(place, c.name);
    } catch (error) {
      const why = isTrouble(error) || error instanceof Error ? error.message.replace(": nothing was saved", "") : String(error);
      failed.push(`${place}: ${why}`);
    }
  }
  if (failed.length > 0) await writeSettings(store, { [COPY_TROUBLE]: { atMs: now, words: failed.join(" ") } satisfies CopyTrouble });
  else if (await readSetting(store, COPY_TROUBLE)) await dropSetting(store, COPY_TROUBLE);
}
