/** What another device changed while a form was open, where the form is sent again from. */

export interface Stale {
  readonly changed: readonly string[];
  /** State the form is made from now: sent with it, it is taken. */
  readonly madeFrom: string;
}

export function Changed({ stale }: { stale: Stale | undefined }) {
  if (!stale) return null;
  return (
    <div className="caution" role="alert">
      <p>
        <b>Changed on another device since this form was opened.</b> Nothing was saved. Your entries are still here: save again to put them
        over it.
      </p>
      <ul>
        {stale.changed.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
    </div>
  );
}
