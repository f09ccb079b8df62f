/** A count with its noun: one minute, two minutes. */
export const counted = (n: number | string, one: string, many = `${one}s`): string => `${n} ${String(n) === "1" ? one : many}`;
