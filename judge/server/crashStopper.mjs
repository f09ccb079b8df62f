/**
 * Loaded into a server by the crash test (`node --import`): after SIGUSR2 it counts the statements that write, and ends its own process as
 * a power cut would, right before the one whose number is in STOP_AT. Commits count as well.
 */
import { createRequire } from "node:module";

const Database = createRequire(import.meta.url)("libsql");
const stopAt = Number(process.env.STOP_AT);
let count;
process.on("SIGUSR2", () => {
  count = 0;
});
const step = () => {
  if (count === undefined) return;
  count += 1;
  if (count === stopAt) process.kill(process.pid, "SIGKILL");
};

const { prepare, exec } = Database.prototype;
Database.prototype.prepare = function (sql) {
  if (/^\s*(insert|update|delete)/i.test(sql)) step();
  return prepare.call(this, sql);
};
Database.prototype.exec = function (sql) {
  if (/^\s*commit/i.test(sql)) step();
  return exec.call(this, sql);
};
