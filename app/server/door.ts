/**
 * The door to the workshop's network: a passphrase kept as its scrypt hash, a signed cookie for a device that knew it, and a wait that
 * grows with every wrong try from one address.
 */
import { randomBytes, type ScryptOptions, scrypt, timingSafeEqual } from "node:crypto";
import type { Logger } from "pino";
import { createCookie } from "react-router";
import type { Store } from "#store/database";
import { readSetting, writeSettings } from "#store/settings";

export const SHORTEST_PASSPHRASE = 10;
const DAY_S = 86_400;
const COOKIE_DAYS = 30;
const KEY_BYTES = 32;
const COST = { N: 32_768, r: 8, p: 1 } as const;
/** Wait after the n-th wrong try in a row: half a second, doubled each time, never more than ten. */
const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 10_000;
const FORGET_MS = 15 * 60_000;
const MOST_ADDRESSES = 1000;

interface Kept {
  readonly salt: string;
  readonly hash: string;
  readonly cost: typeof COST;
}

function stretch(passphrase: string, salt: Buffer, cost: typeof COST): Promise<Buffer> {
  const options: ScryptOptions = { ...cost, maxmem: 256 * cost.N * cost.r };
  return new Promise((done, fail) =>
    scrypt(passphrase.normalize("NFKC"), salt, KEY_BYTES, options, (error, key) => (error ? fail(error) : done(key))),
  );
}

/** Keeps a new passphrase. Devices signed in with the old one are signed out, since the key of their cookies changes with it. */
export async function setPassphrase(store: Store, passphrase: string): Promise<void> {
  if (passphrase.trim().length < SHORTEST_PASSPHRASE)
    throw new RangeError(`The passphrase needs at least ${SHORTEST_PASSPHRASE} characters.`);
  const salt = randomBytes(16);
  const hash = await stretch(passphrase, salt, COST);
  await writeSettings(store, {
    passphrase: { salt: salt.toString("base64"), hash: hash.toString("base64"), cost: COST } satisfies Kept,
    "cookie-key": randomBytes(32).toString("base64"),
  });
}

export async function hasPassphrase(store: Store): Promise<boolean> {
  return (await readSetting<Kept>(store, "passphrase")) !== undefined;
}

export class Door {
  private readonly wrong = new Map<string, { count: number; lastMs: number }>();
  private readonly cookie;

  private constructor(
    private readonly kept: Kept,
    key: string,
    private readonly log: Logger,
    private readonly nowMs: () => number,
    private readonly sleep: (ms: number) => Promise<void>,
  ) {
    this.cookie = createCookie("clenor", { secrets: [key], httpOnly: true, sameSite: "lax", path: "/", maxAge: COOKIE_DAYS * DAY_S });
  }

  /** Undefined while no passphrase was ever set. */
  static async open(
    store: Store,
    log: Logger,
    nowMs: () => number,
    sleep = (ms: number) => new Promise<void>((done) => setTimeout(done, ms)),
  ): Promise<Door | undefined> {
    const kept = await readSetting<Kept>(store, "passphrase");
    const key = await readSetting<string>(store, "cookie-key");
    return kept && key ? new Door(kept, key, log, nowMs, sleep) : undefined;
  }

  /** Whether a request's cookies hold one of ours that is signed and not too old. */
  async knows(cookieHeader: string | undefined): Promise<boolean> {
    const value = (await this.cookie.parse(cookieHeader ?? null)) as { at?: unknown } | null;
    return typeof value?.at === "number" && this.nowMs() - value.at < COOKIE_DAYS * DAY_S * 1000;
  }

  /** The Set-Cookie header for a device that gave the right passphrase; undefined, after a wait, for a wrong one. */
  async signIn(passphrase: string, address: string): Promise<string | undefined> {
    const now = this.nowMs();
    const before = this.wrong.get(address);
    const tries = before && now - before.lastMs < FORGET_MS ? before.count : 0;
    // Counted before it is known: tries made at once wait one after the other as well.
    if (this.wrong.size >= MOST_ADDRESSES) this.wrong.delete(this.wrong.keys().next().value as string);
    this.wrong.set(address, { count: tries + 1, lastMs: now });
    if (tries > 0) await this.sleep(Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (tries - 1)));
    const hash = await stretch(passphrase, Buffer.from(this.kept.salt, "base64"), this.kept.cost);
    if (timingSafeEqual(hash, Buffer.from(this.kept.hash, "base64"))) {
      this.wrong.delete(address);
      return this.cookie.serialize({ at: now });
    }
    this.log.warn({ address, tries: tries + 1 }, "wrong passphrase");
    return undefined;
  }

  /** The Set-Cookie header that signs a device out. */
  signOut(): Promise<string> {
    return this.cookie.serialize("", { maxAge: 0 });
  }
}
