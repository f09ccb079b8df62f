/** Forms that were sent: each is carried out once, however often it arrives, and told from another one that bears its key. */
import { atOnce, type Store } from "./database";

/** A form as it was sent: which one, its one-time key, and a digest of what it says. */
export interface SentForm {
  readonly form: string;
  readonly key: string;
  readonly digest: string;
}

/** The key belongs to a form that said something else. Nothing was saved of this one. */
export class KeyUsed extends Error {
  override readonly name = "KeyUsed";
}

/** Key of the rows a form writes. Keys of forms hold no slash, so that no form can take the key of another or of the application's own. */
export const rowKey = ({ form, key }: SentForm): string => `${form}/${key}`;

/**
 * Carries a form out in one transaction with the note that it was. Sent again it writes nothing and gives the same answer. Throws
 * KeyUsed when its key was used for something else, and then writes nothing.
 *
 * @example const id = await once(store, sent, nowMs, (tx) => openCase(tx, machineId, newCase, nowMs));
 */
export async function once<T>(store: Store, sent: SentForm, nowMs: number, write: (tx: Store) => Promise<T>): Promise<T> {
  return atOnce(store, async (tx) => {
    const before = await tx
      .selectFrom("sent_form")
      .select(["digest", "answer"])
      .where("form", "=", sent.form)
      .where("key", "=", sent.key)
      .executeTakeFirst();
    if (before) {
      if (before.digest !== sent.digest) throw new KeyUsed("This form was sent before and said something else then.");
      return before.answer === null ? (undefined as T) : (JSON.parse(before.answer) as T);
    }
    const answer = await write(tx);
    await tx
      .insertInto("sent_form")
      .values({
        form: sent.form,
        key: sent.key,
        digest: sent.digest,
        answer: answer === undefined ? null : JSON.stringify(answer),
        at_ms: nowMs,
      })
      .execute();
    return answer;
  });
}
