/** Light along the path: a hollow bar as it was when all was good, a filled one as it is taken to be now, a mark where it was read. */
import type { BudgetLine } from "#services/cases/budget";

export function Budget({ lines }: { lines: readonly BudgetLine[] }) {
  return (
    <ul className="budget">
      {lines.map((l) => (
        <li key={l.id}>
          <div className="between">
            <b>{l.name}</b>
            <span className="nowrap">{l.words}</span>
          </div>
          <div className="budget-bar" aria-hidden="true">
            <i className="good" style={{ width: `${100 * l.good}%` }} />
            <i className="now" style={{ width: `${100 * l.now}%` }} />
            {l.read === undefined ? null : <i className="read" style={{ left: `${100 * Math.min(1, l.read)}%` }} />}
          </div>
          <div className="between small soft">
            <span>{l.loss}</span>
            {l.readWords ? <span className="nowrap">{l.readWords}</span> : null}
          </div>
        </li>
      ))}
    </ul>
  );
}
