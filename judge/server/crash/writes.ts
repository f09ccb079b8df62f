/** Writes of every kind that the places make, each to be found again in what a killed server left. */
import { createHash } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import sharp from "sharp";
import type { Random } from "#core/random";
import type { RunningServer } from "../../../e2e/server";
import { count, form, json, newMachine } from "./talk";

/** Where writes go: a material of Teasel's, and the round that is open on Burdock. */
interface At {
  readonly teaselMaterial: string;
  readonly openRound: number;
}

/** A write that can be sent again: how, and how often it is in the database. */
export interface Write {
  readonly name: string;
  readonly send: (server: RunningServer) => Promise<Response>;
  readonly found: (folder: string) => number;
}

let n = 0;
/** One write of any kind, with a mark of its own. */
export async function someWrite({ uniform, integer, pick }: Random, { teaselMaterial, openRound }: At): Promise<Write> {
  n += 1;
  const mark = `crash-${n}-${Math.floor(uniform() * 1e9)}`;
  const event = (fields: [string, string][]): Write => ({
    name: fields[0]?.[1] ?? "",
    send: (s) => form(s, "/teasel/log", [...fields, ["note", mark], ["requestKey", mark]]),
    found: (f) => count(f, "SELECT count(*) n FROM event WHERE payload LIKE ?", `%${mark}%`),
  });
  const kinds: (() => Write | Promise<Write>)[] = [
    () => event([["kind", "note"]]),
    () =>
      event([
        ["kind", "job"],
        ["materialId", teaselMaterial],
        ["minutes", "12"],
      ]),
    () =>
      event([
        ["kind", "grade"],
        ["station", "lens"],
        ["grade", "1"],
      ]),
    () => ({
      name: "answers",
      send: (s) =>
        json(s, `/burdock/round/${openRound}/answers`, {
          items: [1, 2, 3].map((i) => ({
            stepId: "lens.found",
            answer: { atMs: Date.now() + i, note: `${mark}-${i}` },
            requestKey: `${mark}-${i}`,
          })),
        }),
      // All three or none: counted as one.
      found: (f) => count(f, "SELECT count(*) n FROM round_answer WHERE answer LIKE ?", `%${mark}%`) / 3,
    }),
    () => ({
      name: "material",
      send: (s) =>
        form(s, "/teasel/workshop", [
          ["intent", "new-material"],
          ["kind", "birch-ply"],
          ["name", `birch ply ${mark}`],
          ["thicknessMm", "3"],
        ]),
      found: (f) => count(f, "SELECT count(*) n FROM material WHERE name = ?", `birch ply ${mark}`),
    }),
    () => ({
      name: "file taken in",
      send: async (s) => {
        const rows = [1, 2, 3].map((i) => `2026-11-2${i} 10:00,"${mark}"`);
        const looked = await fetch(`${s.url}/teasel/exchange/upload?kind=note`, {
          method: "POST",
          body: `when,note\n${rows.join("\n")}\n`,
          headers: { origin: s.url, "content-type": "application/octet-stream" },
        });
        const { id } = (await looked.json()) as { id?: string };
        return form(s, "/teasel/exchange/take-in", [
          ["intent", "take-in"],
          ["file", id ?? ""],
        ]);
      },
      // All three or none: counted as one.
      found: (f) => count(f, "SELECT count(*) n FROM event WHERE payload LIKE ?", `%${mark}%`) / 3,
    }),
    () => ({
      name: "test file",
      send: (s) =>
        form(s, "/teasel/coupons", [
          ["kind", "coupon"],
          ["form", "ladder"],
          ["materialId", teaselMaterial],
          ["setPercent", "45"],
          ["speedsMmPerS", "40 45 50"],
          ["requestKey", mark],
        ]),
      found: (f) => count(f, "SELECT count(*) n FROM event WHERE kind = 'coupon' AND request_key LIKE ?", `%${mark}%`),
    }),
    () => ({
      name: "mark on tape",
      send: (s) =>
        form(s, "/teasel/aim", [
          ["intent", "mark"],
          ["spot", "mirror-1"],
          ["right", String(n / 1000)],
          ["up", "0"],
          ["requestKey", mark],
        ]),
      found: (f) => count(f, "SELECT count(*) n FROM aim_entry WHERE request_key LIKE ?", `%${mark}%`),
    }),
    () => ({
      name: "machine",
      send: (s) => form(s, "/start", newMachine(mark, mark)),
      found: (f) => count(f, "SELECT count(*) n FROM machine JOIN material ON machine_id = machine.id WHERE machine.name = ?", mark),
    }),
    async () => {
      const bytes = await sharp({
        create: { width: 40, height: 30, channels: 3, background: { r: n % 256, g: (n >> 8) % 256, b: integer(0, 255) } },
      })
        .jpeg()
        .toBuffer();
      const size = bytes.length;
      return {
        name: "photo",
        send: (s) =>
          fetch(`${s.url}/photos`, {
            method: "POST",
            body: new Uint8Array(bytes),
            headers: { origin: s.url, "content-type": "image/jpeg" },
          }),
        found: (f) => {
          const hash = createHash("sha256").update(bytes).digest("hex");
          const file = join(f, "photos", hash.slice(0, 2), hash);
          const rows = count(f, "SELECT count(*) n FROM photo WHERE hash = ?", hash);
          if (rows > 0 && (!existsSync(file) || readFileSync(file).length !== size)) return 0;
          return rows;
        },
      };
    },
  ];
  return pick(kinds)();
}
