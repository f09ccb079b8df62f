import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "kysely";
import pino from "pino";
import { describe, expect, it } from "vitest";
import { openStore } from "#store/database";
import { readSetting } from "#store/settings";
import { Door, setPassphrase } from "./door";
import { lanAsked } from "./lan";

const RIGHT = "felt under the reed pan";
const cookieOf = (header: string | undefined) => header?.split(";")[0];

async function door() {
  const store = await openStore(mkdtempSync(join(tmpdir(), "clenor-door-")));
  const waits: number[] = [];
  const lines: string[] = [];
  const log = pino({ level: "warn" }, { write: (line: string) => void lines.push(line) });
  const clock = { nowMs: Date.parse("2026-11-24T09:00:00Z") };
  const open = () =>
    Door.open(
      store,
      log,
      () => clock.nowMs,
      async (ms) => void waits.push(ms),
    );
  return { store, open, waits, lines, clock };
}

describe("the door to the workshop's network", () => {
  it("does not exist without a passphrase, and takes none that is short", async () => {
    const { store, open } = await door();
    expect(await open()).toBeUndefined();
    await expect(setPassphrase(store, "too short")).rejects.toThrow(/at least 10/);
    expect(await open()).toBeUndefined();
  });

  it("lets in who knows it, keeps only hashes, and knows the device again until a month has passed", async () => {
    const { store, open, clock } = await door();
    await setPassphrase(store, RIGHT);
    expect(JSON.stringify(await readSetting(store, "passphrase"))).not.toContain("reed");
    const d = await open();
    const cookie = await d?.signIn(RIGHT, "10.0.0.7", "the phone at the bench");
    expect(cookie).toMatch(/HttpOnly; SameSite=Lax/);
    expect(await d?.sessionOf(cookieOf(cookie), "10.0.0.9")).toMatchObject({ device: "the phone at the bench" });
    // It is noted beside what was asked: nobody waits for it.
    await expect.poll(() => d?.sessions()).toMatchObject([{ device: "the phone at the bench", address: "10.0.0.9" }]);
    const kept = JSON.stringify(await store.selectFrom("session").selectAll().execute());
    const token = Buffer.from(decodeURIComponent(cookieOf(cookie)?.split("=")[1] ?? ""), "base64")
      .toString()
      .slice(1, -1);
    expect(token.length).toBeGreaterThan(40);
    expect(kept).not.toContain(token);
    expect(await d?.sessionOf(`${cookieOf(cookie)?.slice(0, -4)}xxxx`, "10.0.0.7")).toBeUndefined();
    expect(await d?.sessionOf(undefined, "10.0.0.7")).toBeUndefined();
    clock.nowMs += 31 * 86_400_000;
    expect(await d?.sessionOf(cookieOf(cookie), "10.0.0.7")).toBeUndefined();
  });

  it("ends a session by its sign-out: the same cookie opens nothing any more, and other devices stay", async () => {
    const { store, open } = await door();
    await setPassphrase(store, RIGHT);
    const d = await open();
    const [gone, stays] = [
      cookieOf(await d?.signIn(RIGHT, "10.0.0.7", "a phone")),
      cookieOf(await d?.signIn(RIGHT, "10.0.0.8", "a tablet")),
    ];
    const session = await d?.sessionOf(gone, "10.0.0.7");
    expect(await d?.signOut(session?.id)).toMatch(/Max-Age=0/);
    expect(await d?.sessionOf(gone, "10.0.0.7")).toBeUndefined();
    expect(await d?.sessionOf(stays, "10.0.0.8")).toBeDefined();
  });

  it("signs every device out when the passphrase is changed, and none when the same one is given again", async () => {
    const { store, open } = await door();
    await setPassphrase(store, RIGHT);
    const cookie = cookieOf(await (await open())?.signIn(RIGHT, "10.0.0.7", "a phone"));
    await setPassphrase(store, RIGHT);
    expect(await (await open())?.sessionOf(cookie, "10.0.0.7")).toBeDefined();
    await setPassphrase(store, "another one altogether");
    const d = await open();
    expect(await d?.sessionOf(cookie, "10.0.0.7")).toBeUndefined();
    expect(await d?.signIn(RIGHT, "10.0.0.7", "a phone")).toBeUndefined();
  });

  it("changes the passphrase and signs out at once, or neither: no device stays in by a passphrase that is gone", async () => {
    const { store, open } = await door();
    await setPassphrase(store, RIGHT);
    const cookie = cookieOf(await (await open())?.signIn(RIGHT, "10.0.0.1", "the phone"));
    await sql`CREATE TRIGGER stop BEFORE DELETE ON session BEGIN SELECT RAISE(ABORT, 'power cut'); END`.execute(store);
    await expect(setPassphrase(store, "another passphrase")).rejects.toThrow("power cut");
    const still = await open();
    expect(await still?.signIn("another passphrase", "10.0.0.2", "x")).toBeUndefined();
    expect(await still?.sessionOf(cookie, "10.0.0.1")).toMatchObject({ device: "the phone" });
    await sql`DROP TRIGGER stop`.execute(store);
    await setPassphrase(store, "another passphrase");
    expect(await (await open())?.sessionOf(cookie, "10.0.0.1")).toBeUndefined();
  });

  it("makes each wrong try of an address wait longer and writes it down, and others not", async () => {
    const { store, open, waits, lines, clock } = await door();
    await setPassphrase(store, RIGHT);
    const d = await open();
    for (let i = 0; i < 4; i++) expect(await d?.signIn("a guess or two", "10.0.0.66", "a phone")).toBeUndefined();
    expect(waits).toEqual([500, 1000, 2000]);
    expect(lines.map((l) => JSON.parse(l))).toMatchObject([
      { address: "10.0.0.66", tries: 1, msg: "wrong passphrase" },
      {},
      {},
      { tries: 4 },
    ]);
    expect(lines.join()).not.toContain("guess");
    await d?.signIn(RIGHT, "10.0.0.7", "a phone");
    expect(waits).toHaveLength(3);
    clock.nowMs += 16 * 60_000;
    expect(await d?.signIn(RIGHT, "10.0.0.66", "a phone")).toBeDefined();
    expect(waits).toHaveLength(3);
  });
});

describe("many tries at once", () => {
  it("are weighed one after the other, a few of them, and the rest are told so; who is in goes on meanwhile", async () => {
    const { store, open } = await door();
    await setPassphrase(store, RIGHT);
    const d = await open();
    const cookie = cookieOf(await d?.signIn(RIGHT, "10.0.0.1", "the phone at the bench"));
    const tries = Array.from({ length: 29 }, (_, i) => d?.signIn("a wrong passphrase", `10.0.1.${i}`, "x"));
    const order: string[] = [];
    const all = Promise.allSettled(tries).then((ends) => {
      order.push("tries");
      return ends;
    });
    expect(await d?.sessionOf(cookie, "10.0.0.1")).toMatchObject({ device: "the phone at the bench" });
    order.push("page");
    const ends = await all;
    const refused = ends.flatMap((e) => (e.status === "rejected" ? [e.reason as Error] : []));
    expect(refused.length).toBeGreaterThan(20);
    for (const e of refused) expect(e).toMatchObject({ name: "TooManyTries", message: expect.stringMatching(/Wait a little/) });
    expect(ends.flatMap((e) => (e.status === "fulfilled" && e.value !== undefined ? [e.value] : []))).toEqual([]);
    expect(order).toEqual(["page", "tries"]);
    expect(await d?.signIn(RIGHT, "10.0.0.1", "the phone at the bench")).toMatch(/HttpOnly/);
  });
});

describe("--lan", () => {
  it.each([
    [["--fresh"], undefined],
    [["--lan"], { address: undefined }],
    [["--lan=192.168.1.20"], { address: "192.168.1.20" }],
  ])("%j", (argv, asked) => expect(lanAsked(argv)).toEqual(asked));

  it("takes an address of a machine only", () => expect(() => lanAsked(["--lan=larkspur"])).toThrow(/192.168.1.20/));
});
