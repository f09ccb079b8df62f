/** What a disk or another program can do to a write, told apart, so that a person hears which and what to do. */

export type TroubleKind = "full" | "read-only" | "busy" | "failing" | "gone";

const WORDS: Readonly<Record<TroubleKind, string>> = {
  full: "The disk is full: nothing was saved. Make room on it.",
  "read-only": "The data folder cannot be written: nothing was saved. Look at who may write there.",
  busy: "Another program holds the data file just now: nothing was saved. Close it, or wait a moment.",
  gone: "The data file is not in its folder any more: nothing was saved. Put it back where it was, or stop Clenor and start it again.",
  failing: "The disk could not be written, so nothing was saved. Check the disk, then save again.",
};

/** A write that did not happen. The message says why; nothing was changed. */
export class StoreTrouble extends Error {
  override readonly name = "StoreTrouble";
  constructor(
    readonly kind: TroubleKind,
    cause: unknown,
  ) {
    super(WORDS[kind], { cause });
  }
}

/**
 * Whether an error is such a trouble. Told by its name: the process and its pages are two bundles, each with a class of its own, and the
 * store that one opened throws into the other.
 */
export const isTrouble = (error: unknown): error is StoreTrouble => error instanceof Error && error.name === "StoreTrouble";

const KINDS: readonly (readonly [RegExp, TroubleKind])[] = [
  [/^(SQLITE_FULL|ENOSPC|EDQUOT|EFBIG)/, "full"],
  [/^(SQLITE_READONLY|EROFS|EACCES|EPERM)/, "read-only"],
  [/^SQLITE_(BUSY|LOCKED)/, "busy"],
  [/^(SQLITE_IOERR|SQLITE_CANTOPEN|EIO|EMFILE|ENFILE)/, "failing"],
];

/** The trouble an error of the driver or the file system stands for; undefined for any other error. */
export function troubleOf(error: unknown): StoreTrouble | undefined {
  if (isTrouble(error)) return error;
  const code = (error as { code?: unknown } | null)?.code;
  const found = typeof code === "string" ? KINDS.find(([pattern]) => pattern.test(code)) : undefined;
  return found && new StoreTrouble(found[1], error);
}

export const isBusy = (error: unknown): boolean => troubleOf(error)?.kind === "busy";
