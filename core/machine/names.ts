/** A part's name inside a sentence: "the lens", but plain "M2". */
export function nameInSentence(name: string): string {
  return /^[A-Z]\d/.test(name) ? name.replace(" in head", "") : `the ${name.charAt(0).toLowerCase()}${name.slice(1)}`;
}
