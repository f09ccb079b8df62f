/**
 * Which words of a line may be left over. A line is kept only if every word of it is understood: what turns it round (not, almost), puts it
 * into the future or in doubt (should, maybe), tells of another time or of several things stops it, and so does what nobody knows. Small
 * words that say nothing are passed over; words that only describe become the note.
 */

const words = (list: string): ReadonlySet<string> => new Set(list.trim().split(/\s+/));

/** Turn what is said into something else, wherever they stand: negation, hedges, wishes, other times, exceptions, comparisons. */
const TURNS = words(`
  not no nor neither none nothing never without cannot cant dont didnt doesnt wont wasnt isnt arent hasnt havent couldnt wouldnt
  hardly barely scarcely almost nearly mostly partially half quite rather somewhat about around roughly approximately circa
  maybe perhaps probably possibly might may could would should shall can seems seem seemed apparently think thought guess guessed unsure sure
  suspect believe hope expect expected supposed
  will going gonna need needs needed must todo want wants wanted plan plans planned planning order ordered tomorrow later soon next tonight
  before after until till since ago earlier previously formerly last yesterday
  if unless except excluding but instead otherwise else however although though despite
  less more than better worse again still yet already anymore only just too enough
  failed fails fail failing tried tries try trying attempt attempted forgot forgotten skipped missed refused unable stopped stop
  wrong mistake error ignore cancel delete undo
  all every each both either other another others some several few many most any everything everywhere
  first second third twice thrice
  spare used old borrowed neighbour neighbor customer
`);

/** A contraction of a negation: didn't, won't. */
const isTurned = (word: string): boolean => TURNS.has(word) || /n't$/.test(word);

/** Say nothing by themselves. */
const EMPTY = words(`
  a an the at on in of for to with and by from as into onto is was were are be been it its it's this that these those there here
  my our your i we i've we've have has had did do does done went goes go get got gives gave now today then so
  set setting speed power please reads reading read shows showing showed says said measured found seen see looked looks look looking
`);

/** Describe what was said without changing it: they become the note. */
const DESCRIBE = words(`
  slight slightly faint faintly light lightly thin heavy heavily thick bad badly even uneven
  yellow yellowish brown brownish grey gray white black dark pale
  rim edge edges centre center middle corner top bottom
  batch gasket gaskets jig jigs template templates fretwork reed concertina
  morning evening noon
`);

/** Say where, but only before a place: "the far corner", never "far from clean". */
const SIDES = words("far near front back rear left right upper lower");
const PLACES = words("corner corners edge edges");

/** True where the word at `i` is one of the words that lead to a place. */
function isOfPlace(left: Left, i: number): boolean {
  const word = left[i];
  if (word?.is !== "word") return false;
  if (PLACES.has(word.text)) return true;
  return SIDES.has(word.text) && isOfPlace(left, i + 1);
}

/** What is left over of a line, sorted by what it does to it. */
export interface Leftover {
  /** What stops it, as it was typed. */
  readonly unclear: readonly string[];
  /** What becomes its note. */
  readonly note: string;
}

/** Words that together put a thing into the future. */
const PHRASES = [/\bto (be|get|do|have|clean|check|replace|change|order|buy)\b/];

type Left = readonly (
  | { readonly is: "figure"; readonly shown: string }
  | { readonly is: "word"; readonly text: string; readonly shown: string }
)[];

/**
 * Sorts what no rule took. `free`: words that nobody knows may stand in the note (what something cost was for anything), but none that turns
 * it round. `empty`: further words that say nothing in a line of this kind.
 */
export function sortLeftover(
  left: Left,
  aside: string,
  { free = false, empty = "" }: { readonly free?: boolean; readonly empty?: string } = {},
): Leftover {
  const own = words(empty);
  const unclear: string[] = [];
  const note: string[] = [];
  for (const [i, t] of left.entries()) {
    if (t.is === "figure") unclear.push(t.shown);
    else if (isOfPlace(left, i)) note.push(t.shown);
    else if (own.has(t.text)) continue;
    else if (isTurned(t.text)) unclear.push(t.shown);
    else if (DESCRIBE.has(t.text)) note.push(t.shown);
    else if (EMPTY.has(t.text)) {
      if (note.length > 0) note.push(t.shown);
    } else if (free) note.push(t.shown);
    else unclear.push(t.shown);
  }
  const phrases = PHRASES.flatMap((phrase) => phrase.exec(left.map((t) => (t.is === "word" ? t.text : t.shown)).join(" "))?.[0] ?? []);
  const beside = aside.split(/[^\p{L}\p{N}']+/u).filter((w) => isTurned(w.toLowerCase()));
  return { unclear: [...unclear, ...phrases, ...beside], note: [note.join(" "), aside].filter(Boolean).join("; ") };
}
