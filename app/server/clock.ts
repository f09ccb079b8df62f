/** The clock: real time, or running on from a given moment when one is set, so that tests and pictures have a fixed day. */
export function clockFrom(start: string | undefined): () => number {
  if (start === undefined || start === "") return () => Date.now();
  const startMs = Date.parse(start);
  if (Number.isNaN(startMs)) throw new Error(`CLENOR_NOW must be a date and time such as 2026-11-24T09:00:00Z, found "${start}"`);
  const offset = startMs - Date.now();
  return () => Date.now() + offset;
}
