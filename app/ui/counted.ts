/** A count with its noun: one minute, two minutes. */
export const counted = (n: number | string, one: string, many = `${one}s`): string => `${n} ${/^(under )?1$/.test(String(n)) ? one : many}`;
