/** How the crash script talks to a server under test, and looks into what it left. */
import LibsqlDatabase from "libsql";
import { databaseFile } from "#store/database";
import type { RunningServer } from "../../../e2e/server";

type Row = Record<string, unknown>;
export function rowsOf(folder: string, query: string, ...values: unknown[]): Row[] {
  const database = new LibsqlDatabase(databaseFile(folder));
  try {
    return database.prepare(query).all(values) as Row[];
  } finally {
    database.close();
  }
}
export const count = (folder: string, query: string, ...values: unknown[]) => Number(rowsOf(folder, query, ...values)[0]?.n);

/** A form as a page sends it. */
export const form = (server: RunningServer, path: string, fields: readonly (readonly [string, string])[]) =>
  fetch(server.url + path, {
    method: "POST",
    body: new URLSearchParams(fields.map(([n, v]) => [n, v])),
    headers: { origin: server.url },
    redirect: "manual",
  });
export const json = (server: RunningServer, path: string, body: unknown) =>
  fetch(server.url + path, {
    method: "POST",
    body: JSON.stringify(body),
    headers: { origin: server.url, "content-type": "application/json" },
  });

/** Fields of the form that begins a machine. */
export const newMachine = (name: string, key: string): [string, string][] => [
  ["name", name],
  ["layout", "periscope"],
  ["ratedPowerW", "60"],
  ["tubeHours", "10"],
  ["ratedTubeHours", "3000"],
  ["materialKind", "birch-ply"],
  ["thicknessMm", "3"],
  ["next", "today"],
  ["requestKey", key],
];
