/**
 * What stood in a form that was left before it was sent: going back to it, or loading the page again, brings it back. It is kept for the
 * entry of the browser's history the form stood at, in this tab only, and never where a passphrase is typed.
 */
import { type RefObject, useEffect, useRef, useState } from "react";
import { useLocation } from "react-router";

/** Values by field; one that may be ticked several times has several. */
export type Draft = Readonly<Record<string, readonly string[]>>;

function standingIn(form: HTMLFormElement): Draft {
  const data = new FormData(form);
  // The key of a form is the page's, not its owner's.
  const names = [...new Set(data.keys())].filter((name) => name !== "requestKey");
  return Object.fromEntries(names.map((name) => [name, data.getAll(name).filter((v) => typeof v === "string")]));
}

function kept(key: string): Draft | undefined {
  try {
    const text = sessionStorage.getItem(key);
    return text === null ? undefined : (JSON.parse(text) as Draft);
  } catch {
    return undefined;
  }
}

function keep(key: string, draft: Draft | undefined): void {
  try {
    if (draft === undefined) sessionStorage.removeItem(key);
    else sessionStorage.setItem(key, JSON.stringify(draft));
  } catch {
    // Without a store, or with a full one, Back shows the form as it was first.
  }
}

/**
 * The draft of the form that `mark` stands in, once the page is awake; undefined where there is none. `isRefused`: it was sent and came
 * back, so that what stands in it was not saved.
 */
export function useDraft(mark: RefObject<HTMLElement | null>, isRefused: boolean): Draft | undefined {
  const { key, pathname, search } = useLocation();
  const [draft, setDraft] = useState<Draft>();
  const sent = useRef(false);
  if (isRefused) sent.current = false;
  const place = `draft ${key} ${pathname}${search}`;
  useEffect(() => {
    const form = mark.current?.closest("form");
    if (!form || form.querySelector("input[type=password]")) return;
    const own = `${place} ${[...document.forms].indexOf(form)} ${form.querySelector<HTMLInputElement>("[name=intent]")?.value ?? ""}`;
    const first = JSON.stringify(standingIn(form));
    const values = kept(own);
    // Sending a form leads to another entry of the history, though it stays where it is: what is typed into it meanwhile stays too.
    if (values) setDraft(values);
    let last: Draft | undefined = values;
    const look = () => {
      if (!form.isConnected) return;
      const now = standingIn(form);
      const text = JSON.stringify(now);
      // Sent, and emptied for the next: what differs from both was typed since.
      if (text !== JSON.stringify(last) && text !== first) sent.current = false;
      last = text === first && !values ? undefined : now;
    };
    const lookSoon = () => requestAnimationFrame(look);
    const onSubmit = () => {
      look();
      sent.current = true;
      keep(own, undefined);
    };
    const save = () => {
      if (!sent.current && last) keep(own, last);
    };
    // A list that is open stands outside of its form: so every touch and key is followed by a look.
    const touches = ["click", "keyup"] as const;
    for (const touch of touches) document.addEventListener(touch, lookSoon, true);
    form.addEventListener("input", look);
    form.addEventListener("submit", onSubmit);
    window.addEventListener("pagehide", save);
    return () => {
      save();
      for (const touch of touches) document.removeEventListener(touch, lookSoon, true);
      form.removeEventListener("input", look);
      form.removeEventListener("submit", onSubmit);
      window.removeEventListener("pagehide", save);
    };
  }, [place, mark]);
  return draft;
}
