/** The answers of a case so far, newest first, each to be taken back; those taken back, to be brought back. */
import { Form } from "react-router";
import { Submit } from "../ui/form/Posted";
import type { Route } from "./+types/case";

type Loaded = Route.ComponentProps["loaderData"];

export function Answered({ loaded }: { loaded: Loaded }) {
  const { view, closed } = loaded;
  return (
    <section>
      <h2 className="small-title">Answers so far</h2>
      <ul className="lines small">
        {view.history.map((h) => (
          <li key={h.key} className="between">
            <span className="grow">{h.words}</span>
            <span className="soft">{h.day}</span>
            {h.findingId !== undefined && !closed ? (
              <TakeBack findingId={h.findingId} label={`Take back: ${h.words}`}>
                take back
              </TakeBack>
            ) : (
              <span className="soft">{h.findingId === undefined ? "from the log" : ""}</span>
            )}
          </li>
        ))}
        {view.withdrawn.map((w) => (
          <li key={w.id} className="between">
            <span className="struck grow">{w.words}</span>
            {closed ? null : (
              <Form method="post">
                <input type="hidden" name="intent" value="redo" />
                <input type="hidden" name="finding" value={w.id} />
                <Submit type="link" size="small">
                  bring back
                </Submit>
              </Form>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

export function TakeBack({
  findingId,
  label,
  disabled,
  children,
}: {
  findingId: number;
  label?: string;
  disabled?: boolean;
  children: string;
}) {
  return (
    <Form method="post">
      <input type="hidden" name="intent" value="undo" />
      <input type="hidden" name="finding" value={findingId} />
      <Submit type="link" size="small" disabled={disabled === true} aria-label={label}>
        {children}
      </Submit>
    </Form>
  );
}
