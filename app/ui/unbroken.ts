/** The same words with no line break between a figure and its unit. */
export const unbroken = (text: string): string => text.replace(/(\d) (?=(?:%|W|mm|h|min|°C)(?![a-z]))/g, "$1\u00a0");
