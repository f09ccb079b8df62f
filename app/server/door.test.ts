import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pino from "pino";
import { describe, expect, it } from "vitest";
import { openStore } from "#store/database";
import { readSetting } from "#store/settings";
import { Door, setPassphrase } from "./door";
import { lanAsked } from "./lan";

const RIGHT = "felt under the reed pan";
const cookieOf = (header: string | undefined) => header?.split(";")[0];

async function door() {
  const store = openStore(mkdtempSync(join(tmpdir(), "clenor-door-")));
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

  it("lets in who knows it, keeps only its hash, and knows the device again until it signs out or a month has passed", async () => {
    const { store, open, clock } = await door();
    await setPassphrase(store, RIGHT);
    expect(JSON.stringify(await readSetting(store, "passphrase"))).not.toContain("reed");
    const d = await open();
    const cookie = await d?.signIn(RIGHT, "10.0.0.7");
    expect(cookie).toMatch(/HttpOnly; SameSite=Lax/);
    expect(await d?.knows(cookieOf(cookie))).toBe(true);
    expect(await d?.knows(`${cookieOf(cookie)?.slice(0, -2)}xx`)).toBe(false);
    expect(await d?.knows(undefined)).toBe(false);
    expect(await d?.knows(cookieOf(await d.signOut()))).toBe(false);
    clock.nowMs += 31 * 86_400_000;
    expect(await d?.knows(cookieOf(cookie))).toBe(false);
  });

  it("signs every device out when the passphrase is changed", async () => {
    const { store, open } = await door();
    await setPassphrase(store, RIGHT);
    const cookie = cookieOf(await (await open())?.signIn(RIGHT, "10.0.0.7"));
    await setPassphrase(store, "another one altogether");
    const d = await open();
    expect(await d?.knows(cookie)).toBe(false);
    expect(await d?.signIn(RIGHT, "10.0.0.7")).toBeUndefined();
  });

  it("makes each wrong try of an address wait longer and writes it down, and others not", async () => {
    const { store, open, waits, lines, clock } = await door();
    await setPassphrase(store, RIGHT);
    const d = await open();
    for (let i = 0; i < 4; i++) expect(await d?.signIn("a guess or two", "10.0.0.66")).toBeUndefined();
    expect(waits).toEqual([500, 1000, 2000]);
    expect(lines.map((l) => JSON.parse(l))).toMatchObject([
      { address: "10.0.0.66", tries: 1, msg: "wrong passphrase" },
      {},
      {},
      { tries: 4 },
    ]);
    expect(lines.join()).not.toContain("guess");
    await d?.signIn(RIGHT, "10.0.0.7");
    expect(waits).toHaveLength(3);
    clock.nowMs += 16 * 60_000;
    expect(await d?.signIn(RIGHT, "10.0.0.66")).toBeDefined();
    expect(waits).toHaveLength(3);
  });
});

describe("--lan", () => {
  it.each([
    [["--fresh"], undefined],
    [["--lan"], { address: undefined }],
    [["--lan=192.168.1.20"], { address: "192.168.1.20" }],
  ])("%j", (argv, asked) => expect(lanAsked(argv)).toEqual(asked));
});
