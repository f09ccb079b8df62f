/** The manners of every loader: what a service says is not there becomes a page that says so, instead of a failure. */
import { data } from "react-router";
import { NotHere, Unreadable } from "#services/refusal";

export function reading<A, R>(load: (args: A) => Promise<R>) {
  return (args: A): Promise<R> => load(args).catch(asAnswer);
}

/** A refusal of a service as the answer a browser gets: 404 with its words, 400 for what cannot be read. Anything else is thrown on. */
export function asAnswer(error: unknown): never {
  if (error instanceof NotHere) throw data(error.message, { status: 404 });
  if (error instanceof Unreadable) throw data(error.message, { status: 400 });
  throw error;
}
