/**
 * Sending a form without losing it: when no answer comes (no connection, a server that stopped) or the server could not save, the page
 * stays as it is, with what was typed, and a bar says what happened until it is sent again.
 */
import { useSyncExternalStore } from "react";
import { data, isRouteErrorResponse } from "react-router";

let said: string | undefined;
const listeners = new Set<() => void>();

function say(words: string | undefined): void {
  if (words === said) return;
  said = words;
  for (const tell of listeners) tell();
}

const listen = (tell: () => void) => {
  listeners.add(tell);
  return () => void listeners.delete(tell);
};

/** What kept the last form from being saved; undefined when nothing did. */
export const useSendingTrouble = (): string | undefined =>
  useSyncExternalStore(
    listen,
    () => said,
    () => undefined,
  );

export const dismissTrouble = (): void => say(undefined);

const LOST =
  "No answer from the server: this may not be saved. What you typed is still here. Send it again when the connection is back: sending twice saves it once.";

/** What the page is told when a form could not be sent: nothing is wrong with it, so nothing is marked. */
interface Unsent {
  readonly errors: Readonly<Record<string, string>>;
  readonly typed: Record<string, string>;
}

/** Key of a form after an answer: a new one where the server said that its own is used up. */
export function keyAfter(answer: object | null | undefined, key: string): string {
  const given = answer && "key" in answer ? answer.key : undefined;
  return typeof given === "string" ? given : key;
}

/** The client's side of every action. Hands the form to the server, and keeps the page when that fails. */
export async function sendKept<T>({ request, serverAction }: { request: Request; serverAction: () => Promise<T> }) {
  const form = await request.clone().formData();
  const typed: Record<string, string> = {};
  for (const [name, value] of form) if (typeof value === "string" && name !== "requestKey") typed[name] = value;
  const unsent = (words: string, status: number) => {
    say(words);
    // A status of failure also keeps the page from asking for everything anew, which would fail as well.
    return data<Unsent>({ errors: {}, typed }, { status });
  };
  try {
    const answer = await serverAction();
    say((answer as { notSaved?: string } | null)?.notSaved);
    return answer;
  } catch (error) {
    // Pressed again meanwhile: the second sending answers for both, since they bear one key.
    if (request.signal.aborted) throw error;
    if (error instanceof Response) {
      say(undefined);
      throw error;
    }
    if (isRouteErrorResponse(error)) {
      const words = typeof error.data === "string" && error.status < 500 ? error.data : LOST;
      return unsent(error.status === 401 ? "You were signed out: sign in again in another window, then send this." : words, error.status);
    }
    return unsent(LOST, 503);
  }
}
