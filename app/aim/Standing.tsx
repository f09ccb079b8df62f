/** Beside the card: how each leg stands, the marks so far, the turns ahead, and what is known of the screws. */
import { Form } from "react-router";
import type { aimView, OpenAim } from "#services/aim/aimView";
import { RequestKey, Submit } from "../ui/form/Posted";
import { More } from "../ui/More";

type Screws = Awaited<ReturnType<typeof aimView>>["screws"];

const SHAPES = { good: "●", off: "◆", unknown: "○" } as const;
const SAID = { good: "good", off: "off", unknown: "open" } as const;

export function Standing({ open, screws, requestKey }: { open: OpenAim; screws: Screws; requestKey: string }) {
  return (
    <aside className="stack loose" aria-label="How it stands">
      <section>
        <h2 className="small-title">Leg by leg, from the tube</h2>
        <ul className="lines">
          {open.legs.map((leg) => (
            <li key={leg.id} className="leg" data-status={leg.status}>
              <span aria-hidden="true">{SHAPES[leg.status]}</span>
              <span>
                <b>{leg.name}</b>
                <br />
                <span className="soft">
                  {SAID[leg.status]}: {leg.words}
                </span>
              </span>
            </li>
          ))}
        </ul>
        <More label="The sum behind it">
          <ul className="lines small">
            {open.legs.map((leg) => (
              <li key={leg.id}>
                {leg.name}: {leg.sum}
              </li>
            ))}
          </ul>
        </More>
      </section>
      {open.ahead.length > 0 ? (
        <section>
          <h2 className="small-title">After this turn</h2>
          <ul className="lines">
            {open.ahead.map((t) => (
              <li key={t.words}>
                {t.words}
                <br />
                <span className="soft">{t.expected.map((e) => `${e.spot}: ${e.place}`).join("; ")}</span>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      {open.marks.length > 0 ? (
        <section>
          <h2 className="small-title">Marks (right and up on the picture)</h2>
          <ul className="lines">
            {open.marks.map((m) => (
              <li key={m.id} className="between">
                <span>{m.spot}</span>
                <span className="right">
                  <span className="nowrap">{m.place}</span>
                  {m.now ? (
                    <>
                      <br />
                      <span className="soft small">{m.now}</span>
                    </>
                  ) : null}
                </span>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      <section>
        <h2 className="small-title">The screws, facing them</h2>
        {screws.length === 0 ? (
          <p className="soft">No mirror here has screws that are an owner's: each keeps its aim in its seat.</p>
        ) : null}
        <ul className="lines">
          {screws.map((m) => (
            <li key={m.id}>
              <div className="between">
                <b>{m.name}</b>
                {m.screws.some((s) => s.does) ? (
                  <Form method="post">
                    <RequestKey value={`${requestKey}-f-${m.id}`} />
                    <input type="hidden" name="intent" value="forget" />
                    <input type="hidden" name="element" value={m.id} />
                    <Submit type="link" size="small">
                      forget them
                    </Submit>
                  </Form>
                ) : null}
              </div>
              {m.screws.map((s) => (
                <p key={s.screw}>
                  {s.screw}, {s.place}: <span className="soft">{screwWords(s, m.at)}</span>
                </p>
              ))}
            </li>
          ))}
        </ul>
      </section>
    </aside>
  );
}

function screwWords({ does, wasTried }: { readonly does?: string | undefined; readonly wasTried: boolean }, at: string): string {
  if (does) return `${does} at ${at}`;
  return wasTried ? "not clear from its last turn; the next one tells" : "not known yet; its first turn tells";
}
