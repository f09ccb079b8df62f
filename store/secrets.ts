/** What says who may come in: no part of any copy, and left as it is when one is taken back. */
import LibsqlDatabase from "libsql";

/** Settings of that kind. */
const SECRETS = ["passphrase", "plan-feeds"] as const;

/** Setting that keeps the secret addresses of the plans. */
export const PLAN_FEEDS = SECRETS[1];

/** What stays as it is when a copy is taken back: who may come in, and what is about this computer alone. */
export const STAYS: readonly string[] = [...SECRETS, "copies-folder", "copy-trouble"];

/** Takes them out of a copy, with the devices that are signed in, so that nothing of them can be read from the file either. */
export function withoutSecrets(file: string): void {
  const copy = new LibsqlDatabase(file);
  try {
    const has = (table: string) => copy.prepare("SELECT 1 FROM sqlite_schema WHERE type = 'table' AND name = ?").all([table]).length > 0;
    copy.exec("PRAGMA secure_delete = ON");
    if (has("session")) copy.exec("DELETE FROM session");
    if (has("setting")) copy.exec(`DELETE FROM setting WHERE name IN (${SECRETS.map((name) => `'${name}'`).join(", ")})`);
  } finally {
    copy.close();
  }
}
