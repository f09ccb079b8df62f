/**
 * The manners of every action: the form is read once and checked for what no form of ours sends, and whatever keeps it from being
 * saved (a full disk, another program, a key that was used) comes back as words beside the form as it was typed.
 */
import { randomUUID } from "node:crypto";
import { data } from "react-router";
import { FormReader, type FormTrouble, trouble } from "#services/forms/fields";
import { isKeepable } from "#services/forms/keepable";
import { KeyUsed } from "#store/sent";
import { isTrouble, type StoreTrouble } from "#store/trouble";
import { asAnswer } from "./reading";

/** Reads a posted form. Throws a 400 with words where a field holds what cannot be kept. */
async function readForm(request: Request): Promise<FormReader> {
  const form = await request.formData().catch(() => {
    throw data("This is not a form that can be read. Reload the page and send it again.", { status: 400 });
  });
  for (const [name, value] of form) {
    if (typeof value !== "string" || !isKeepable(value))
      throw data(`The field "${name.slice(0, 40)}" holds a character that cannot be kept. Type it anew.`, { status: 400 });
  }
  return new FormReader(form);
}

const STATUS: Readonly<Record<StoreTrouble["kind"], number>> = { full: 507, "read-only": 507, failing: 507, busy: 503, gone: 503 };

/** Trouble that came back with the form as it was typed: what kept it from being saved, and a new key where its own is used up. */
export interface NotSaved extends FormTrouble {
  readonly notSaved: string;
  readonly key?: string;
}

/** An action that reads a form. What keeps it from being saved is returned as the form's trouble, never thrown. */
export function saving<A extends { readonly request: Request }, R>(act: (reader: FormReader, args: A) => Promise<R>) {
  return async (args: A) => {
    const reader = await readForm(args.request);
    // A page that is awake shows the words in a bar of its own; one that is not yet shows them where its form is.
    const inPlace = args.request.headers.get("accept")?.includes("text/html") ?? false;
    const notSaved = (words: string, status: number, more: { key?: string } = {}) =>
      data<NotSaved>({ ...trouble(reader, inPlace ? { "": words } : {}), notSaved: words, ...more }, { status });
    try {
      return await act(reader, args);
    } catch (error) {
      if (isTrouble(error)) return notSaved(`${error.message} What you typed is still here: send it again then.`, STATUS[error.kind]);
      if (error instanceof KeyUsed)
        return notSaved(
          "An earlier version of this form is already saved. Nothing was changed, and that was kept. Send it again to save this too.",
          409,
          {
            key: randomUUID(),
          },
        );
      return asAnswer(error);
    }
  };
}
