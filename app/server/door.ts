/**
 * The door to the workshop's network: a passphrase kept as its scrypt hash, a session for each device that knew it, and a wait that
 * grows with every wrong try from one address.
 */
import { randomBytes, type ScryptOptions, scrypt, timingSafeEqual } from "node:crypto";
import type { Logger } from "pino";
import { createCookie } from "react-router";
import { atOnce, type Store } from "#store/database";
import { beginSession, endAllSessions, endSession, findSession, listSessions, type Session } from "#store/sessions";
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

/** Keeps a new passphrase, and signs every device out. The same one again changes nothing. */
export async function setPassphrase(store: Store, passphrase: string): Promise<void> {
  if (passphrase.trim().length < SHORTEST_PASSPHRASE)
    throw new RangeError(`The passphrase needs at least ${SHORTEST_PASSPHRASE} characters.`);
  const before = await readSetting<Kept>(store, "passphrase");
  if (before && (await matches(before, passphrase))) return;
  const salt = randomBytes(16);
  const hash = await stretch(passphrase, salt, COST);
  await atOnce(store, async (tx) => {
    await writeSettings(tx, {
      passphrase: { salt: salt.toString("base64"), hash: hash.toString("base64"), cost: COST } satisfies Kept,
    });
    await endAllSessions(tx);
  });
}

async function matches(kept: Kept, passphrase: string): Promise<boolean> {
  const hash = await stretch(passphrase, Buffer.from(kept.salt, "base64"), kept.cost);
  return timingSafeEqual(hash, Buffer.from(kept.hash, "base64"));
}

export async function hasPassphrase(store: Store): Promise<boolean> {
  return (await readSetting<Kept>(store, "passphrase")) !== undefined;
}

const cookie = createCookie("clenor", { httpOnly: true, sameSite: "lax", path: "/", maxAge: COOKIE_DAYS * DAY_S });

/** So many tries at once that this one was not looked at. */
export class TooManyTries extends Error {
  override readonly name = "TooManyTries";
}

/** Tries that may wait for the one that is being weighed. */
const MOST_WAITING = 4;

export class Door {
  /** Weighing a passphrase takes a thread for a tenth of a second: one at a time, so that whoever guesses holds up nobody who is in. */
  private weighing: Promise<unknown> = Promise.resolve();
  private waiting = 0;
  private readonly wrong = new Map<string, { count: number; lastMs: number }>();

  private constructor(
    private readonly store: Store,
    private readonly kept: Kept,
    private readonly log: Logger,
    private readonly nowMs: () => number,
    private readonly sleep: (ms: number) => Promise<void>,
  ) {}

  /** Undefined while no passphrase was ever set. */
  static async open(
    store: Store,
    log: Logger,
    nowMs: () => number,
    sleep = (ms: number) => new Promise<void>((done) => setTimeout(done, ms)),
  ): Promise<Door | undefined> {
    const kept = await readSetting<Kept>(store, "passphrase");
    return kept && new Door(store, kept, log, nowMs, sleep);
  }

  /** The session a request's cookies name, unless it was ended or is too old. */
  async sessionOf(cookieHeader: string | undefined, address: string): Promise<Session | undefined> {
    const token: unknown = await cookie.parse(cookieHeader ?? null);
    if (typeof token !== "string" || token === "") return undefined;
    const now = this.nowMs();
    return findSession(this.store, token, address, now, now - COOKIE_DAYS * DAY_S * 1000);
  }

  /** The Set-Cookie header for a device that gave the right passphrase; undefined, after a wait, for a wrong one. Throws TooManyTries. */
  async signIn(passphrase: string, address: string, device: string): Promise<string | undefined> {
    const now = this.nowMs();
    const before = this.wrong.get(address);
    const tries = before && now - before.lastMs < FORGET_MS ? before.count : 0;
    // Counted before it is known: tries made at once wait one after the other as well.
    if (this.wrong.size >= MOST_ADDRESSES) this.wrong.delete(this.wrong.keys().next().value as string);
    this.wrong.set(address, { count: tries + 1, lastMs: now });
    if (tries > 0) await this.sleep(Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (tries - 1)));
    if (await this.weigh(passphrase)) {
      this.wrong.delete(address);
      return cookie.serialize(await beginSession(this.store, device, address, now));
    }
    this.log.warn({ address, tries: tries + 1 }, "wrong passphrase");
    return undefined;
  }

  private async weigh(passphrase: string): Promise<boolean> {
    if (this.waiting > MOST_WAITING)
      throw new TooManyTries("Too many devices are signing in at this moment. Wait a little, then try again.");
    this.waiting += 1;
    const turn = this.weighing.then(() => matches(this.kept, passphrase));
    this.weighing = turn.catch(() => undefined);
    return turn.finally(() => {
      this.waiting -= 1;
    });
  }

  /** Devices signed in, the one seen last first. */
  sessions(): Promise<Session[]> {
    return listSessions(this.store, this.nowMs() - COOKIE_DAYS * DAY_S * 1000);
  }

  /** Ends a session, and gives the Set-Cookie header that makes its device forget it. */
  async signOut(sessionId: number | undefined): Promise<string> {
    if (sessionId !== undefined) await endSession(this.store, sessionId);
    return cookie.serialize("", { maxAge: 0 });
  }
}
