/** Secret addresses under which a calendar that cannot sign in reads a machine's plan; each can be revoked. */
import { createHash, randomBytes, timingSafeEqual } from "node:crypto";
import { atOnce } from "#store/database";
import { PLAN_FEEDS } from "#store/secrets";
import { readSetting, writeSettings } from "#store/settings";
import type { Services } from "../context";

/** Secrets by the machine's id. */
type Feeds = Readonly<Record<string, string>>;

const TOKEN_BYTES = 24;
const feedsOf = async (store: Services["store"]): Promise<Feeds> => (await readSetting<Feeds>(store, PLAN_FEEDS)) ?? {};

/** The secret of a machine's feed; undefined where it has none. */
export const feedOf = async ({ store }: Pick<Services, "store">, machineId: number): Promise<string | undefined> =>
  (await feedsOf(store))[String(machineId)];

/** Makes a new secret; the one before reads nothing any more. */
export async function openFeed({ store }: Pick<Services, "store">, machineId: number): Promise<void> {
  await atOnce(store, async (tx) => {
    await writeSettings(tx, { [PLAN_FEEDS]: { ...(await feedsOf(tx)), [machineId]: randomBytes(TOKEN_BYTES).toString("base64url") } });
  });
}

export async function revokeFeed({ store }: Pick<Services, "store">, machineId: number): Promise<void> {
  await atOnce(store, async (tx) => {
    const { [String(machineId)]: _, ...others } = await feedsOf(tx);
    await writeSettings(tx, { [PLAN_FEEDS]: others });
  });
}

const digest = (text: string) => createHash("sha256").update(text).digest();

/** The machine whose feed a secret opens; undefined for every other text, after the same work. */
export async function machineOfFeed({ store }: Pick<Services, "store">, secret: string): Promise<number | undefined> {
  const asked = digest(secret);
  let found: number | undefined;
  for (const [id, own] of Object.entries(await feedsOf(store))) if (timingSafeEqual(digest(own), asked)) found = Number(id);
  return found;
}
