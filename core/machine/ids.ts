/**
 * Ids of what is made once for each mirror or station: `tape@2`, `power@lens`, `aim-off@0` (the tube's own). In the catalog `@k` stands for
 * any mirror, `@next` for the one after it and `@after` for each after it. They are taken apart and put together here, and nowhere else.
 */

/** An id taken apart: what it is, and where: a mirror's number (0 the tube) or a station. */
export interface ParsedId {
  readonly base: string;
  readonly at: string | undefined;
  readonly mirror: number | undefined;
}

const parsed = new Map<string, ParsedId>();
/** More ids than any workshop has; what is asked for out of bad input does not pile up. */
const MOST = 5000;

/** @example parseId("tape@2") // { base: "tape", at: "2", mirror: 2 } */
export function parseId(id: string): ParsedId {
  const known = parsed.get(id);
  if (known) return known;
  const cut = id.indexOf("@");
  const at = cut < 0 ? undefined : id.slice(cut + 1);
  const made = { base: cut < 0 ? id : id.slice(0, cut), at, mirror: at !== undefined && /^\d+$/.test(at) ? Number(at) : undefined };
  if (parsed.size >= MOST) parsed.clear();
  parsed.set(id, made);
  return made;
}

/** @example idAt("tape", 2) // "tape@2" */
export const idAt = (base: string, at: string | number): string => `${base}@${at}`;

/** Whether an id of the catalog stands for one of each mirror. */
export const isForEach = (template: string): boolean => parseId(template).at === "k";

/** An id of the catalog for one mirror; one that is not repeated is as it is. */
export const forMirror = (template: string, k: number): string => (isForEach(template) ? idAt(parseId(template).base, k) : template);

/** The id of the catalog that an id of a machine was made of. */
export const ofCatalog = (id: string): string => (parseId(id).mirror === undefined ? id : idAt(parseId(id).base, "k"));

/** Whether it is a reading of watts, after whichever station. */
export const isPowerCheck = (check: string): boolean => parseId(check).base === "power" && parseId(check).at !== undefined;

/** A part of a round for one mirror: `mirror-@k` is the station of that mirror, all else a work of its own. */
export function partFor(template: string, k: number | undefined): string {
  const { base } = parseId(template);
  if (k === undefined || !isForEach(template)) return template;
  return base.endsWith("-") ? `${base}${k}` : idAt(base, k);
}
