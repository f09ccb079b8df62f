/**
 * The data folder: which files in it are Clenor's, that nobody else on this machine reads them, and that one server at a time has it.
 */
import { chmodSync, existsSync, lstatSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import LibsqlDatabase from "libsql";
import { isBusy } from "./trouble";

const LOCK = "in-use.sqlite";
const HOLDER = "in-use.json";
/** In the folder of demo data, and in no other. */
export const DEMO_MARKER = "demo-data.json";

/** Whether a name in a data folder is one that Clenor itself puts there. */
export const isOurs = (name: string): boolean =>
  /^(clenor|in-use)\.sqlite(-wal|-shm|-journal)?$/.test(name) || [HOLDER, DEMO_MARKER, "photos", "copies"].includes(name);

/**
 * Makes the folder where it is missing, and takes from others what they could read of it: folders 0700, files 0600. A folder that
 * holds other things as well keeps its own mode. Returns what could not be mended, in words.
 */
export function keepPrivate(folder: string): string[] {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const problems: string[] = [];
  const mend = (path: string, mode: number) => {
    try {
      if ((lstatSync(path).mode & 0o777 & ~mode) !== 0) chmodSync(path, mode);
    } catch {
      problems.push(`${path} can be read by others on this machine, and that could not be changed.`);
    }
  };
  const walk = (path: string) => {
    const stat = lstatSync(path);
    if (stat.isDirectory()) {
      mend(path, 0o700);
      for (const name of readdirSync(path)) walk(join(path, name));
    } else if (stat.isFile()) mend(path, 0o600);
  };
  const names = readdirSync(folder);
  if (names.every(isOurs)) mend(folder, 0o700);
  else if ((statSync(folder).mode & 0o077) !== 0)
    problems.push(`${folder} holds other things besides Clenor's and can be read by others on this machine; Clenor's own files cannot.`);
  for (const name of names.filter(isOurs)) walk(join(folder, name));
  return problems;
}

/** Another server has the folder; the message says which and where it answers. */
export class FolderInUse extends Error {
  override readonly name = "FolderInUse";
}

export interface FolderLock {
  /** Tells a second server where this one answers. */
  readonly answersAt: (url: string) => void;
  readonly release: () => void;
}

/**
 * Takes the folder for this process. The lock is one of the operating system's, held through SQLite, so that a killed server leaves
 * none behind. Throws FolderInUse while another process has it.
 */
export function lockFolder(folder: string): FolderLock {
  const database = new LibsqlDatabase(join(folder, LOCK));
  try {
    database.exec("PRAGMA busy_timeout = 0");
    database.exec("BEGIN EXCLUSIVE");
  } catch (error) {
    database.close();
    if (isBusy(error)) throw new FolderInUse(holderWords(folder));
    throw error;
  }
  const holder = join(folder, HOLDER);
  const tell = (url?: string) => writeFileSync(holder, JSON.stringify({ pid: process.pid, url }), { mode: 0o600 });
  tell();
  return {
    answersAt: tell,
    release: () => {
      rmSync(holder, { force: true });
      database.close();
    },
  };
}

function holderWords(folder: string): string {
  let who: { pid?: unknown; url?: unknown } = {};
  try {
    who = JSON.parse(readFileSync(join(folder, HOLDER), "utf8")) as typeof who;
  } catch {
    // It has only just started, and has not said yet.
  }
  const process = typeof who.pid === "number" ? `process ${who.pid}` : "another process";
  const where = typeof who.url === "string" ? `, and answers at ${who.url}` : "";
  return `Clenor is running on ${folder} already: ${process} has it${where}. Stop that one first, or point CLENOR_DATA at another folder.`;
}

export const isDemoFolder = (folder: string): boolean => existsSync(join(folder, DEMO_MARKER));
