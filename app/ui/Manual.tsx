/** Where a machine's manual is: a link where its owner gave one, else the place it lies at. */
export function Manual({ at }: { at: string }) {
  return /^https?:\/\/\S+$/i.test(at) ? (
    <a href={at} target="_blank" rel="noreferrer">
      The maker's manual
    </a>
  ) : (
    <span>The maker's manual: {at}</span>
  );
}
