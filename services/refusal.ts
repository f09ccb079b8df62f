/** What a service refuses, in words for the person who asked; the screens turn it into an answer of theirs. */

/** What was asked for is not there. */
export class NotHere extends Error {
  override readonly name = "NotHere";
}

/** What was sent cannot be what it says it is. Not a person's mistake, but a broken or foreign form. */
export class Unreadable extends Error {
  override readonly name = "Unreadable";
}
