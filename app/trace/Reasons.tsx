/** What it could be and why: ranked faults, each answer's weight for or against as a bar and a number. */
import type { Route } from "./+types/case";

type Loaded = Route.ComponentProps["loaderData"];

const BAR_DECIBANS = 14;

export function Reasons({ loaded }: { loaded: Loaded }) {
  const { view } = loaded;
  return (
    <section aria-label="What it could be, and why">
      <h2 className="small-title" style={{ margin: 0 }}>
        What it could be, and why
      </h2>
      <p className="small soft" style={{ margin: "6px 0 10px" }}>
        Each bar: how far one answer speaks for (filled) or against (hollow), in decibans. Ten make it ten times likelier.
      </p>
      {view.faults.map((f) => (
        <div className="why" key={f.id}>
          <div className="between">
            <b style={{ fontSize: 17 }}>{f.name}</b>
            <b style={{ fontSize: 17 }} className="nowrap">
              {f.chance}
            </b>
          </div>
          {f.evidence.length === 0 ? <p className="small soft">{f.reason}</p> : null}
          {f.evidence.map((e) => {
            const width = `${Math.min(50, (50 * Math.abs(e.decibans)) / BAR_DECIBANS)}%`;
            return (
              <div className="why-line" key={e.check}>
                <span>{e.words}</span>
                <span className="why-bar" aria-hidden="true">
                  <i className={e.decibans > 0 ? "for" : "against"} style={{ width }} />
                </span>
                <span className="right">
                  <span className="sr">{e.decibans > 0 ? "for, " : "against, "}</span>
                  {e.shown}
                </span>
              </div>
            );
          })}
        </div>
      ))}
      <div className="why soft">
        None of these {view.none}
        {view.nothingWrong ? <>; nothing wrong {view.nothingWrong}</> : null}
      </div>
      {view.losses.length > 0 ? (
        <details>
          <summary className="small">Light lost per station, against the baseline</summary>
          <table className="plain small">
            <tbody>
              {view.losses.map((l) => (
                <tr key={l.id}>
                  <th scope="row">{l.name}</th>
                  <td>about {l.mid} %</td>
                  <td>
                    somewhere in {l.low} to {l.high}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      ) : null}
    </section>
  );
}
