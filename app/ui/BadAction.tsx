/** What to do about a part that was seen bad: its round, its replacement, a trace that begins with it, or its supplier. */
import { Posted, RequestKey, Submit } from "./form/Posted";

export interface Bad {
  readonly station: string;
  readonly name: string;
  readonly clean: string | undefined;
  readonly replace: string | undefined;
  readonly isDone: boolean;
  readonly trace: { readonly check: string; readonly outcome: string } | undefined;
}

export function BadAction({ slug, bad, requestKey }: { slug: string; bad: Bad; requestKey: string }) {
  const part = bad.isDone ? bad.replace : bad.clean;
  return (
    <div className="row">
      {bad.trace ? (
        <Posted action={`/${slug}/trace`}>
          <RequestKey value={`${requestKey}-trace`} />
          <input type="hidden" name="check" value={bad.trace.check} />
          <input type="hidden" name="outcome" value={bad.trace.outcome} />
          <Submit>Trace it</Submit>
        </Posted>
      ) : null}
      {part === undefined ? (
        bad.isDone ? (
          <span className="soft">Ask its supplier, with the photo</span>
        ) : null
      ) : (
        <Posted action={`/${slug}/round`}>
          <RequestKey value={requestKey} />
          <input type="hidden" name="part" value={part} />
          {bad.isDone ? <input type="hidden" name="title" value={`${bad.name}: replacement`} /> : null}
          <Submit type={bad.isDone ? "primary" : "default"}>{bad.isDone ? "Replace it" : "Clean it"}</Submit>
        </Posted>
      )}
    </div>
  );
}
