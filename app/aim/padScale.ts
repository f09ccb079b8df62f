/** How much of the plane a pad shows: the part's ring with room around it, and every mark that lies further out. */
export function pad(
  apertureMm: number,
  places: readonly { readonly right: number; readonly up: number }[],
): { spanMm: number; gridMm: number } {
  const reach = Math.max(apertureMm * 0.58, ...places.map((p) => 1.1 * Math.max(Math.abs(p.right), Math.abs(p.up))), 2);
  const gridMm = [0.5, 1, 2, 5, 10, 20].find((g) => g >= reach / 5) ?? 20;
  return { spanMm: reach, gridMm };
}
