/** What it could be and why: ranked faults, each answer's weight for or against as a bar and a number. */
import { More } from "../ui/More";
import type { Route } from "./+types/case";
import { Budget } from "./Budget";

type Loaded = Route.ComponentProps["loaderData"];
type Fault = Loaded["view"]["faults"][number];

const BAR_DECIBANS = 14;

export function Reasons({ loaded }: { loaded: Loaded }) {
  const { view } = loaded;
  return (
    <section className="stack" aria-label="What it could be, and why">
      <h2 className="small-title">What it could be, and why</h2>
      <p className="small soft">Each bar: how far one answer speaks for it (filled) or against it (hollow).</p>
      <div>
        {view.faults.map((f) => (
          <Why key={f.id} fault={f} />
        ))}
        <div className="why soft">
          None of these {view.none}
          {view.nothingWrong ? <>; nothing wrong {view.nothingWrong}</> : null}
        </div>
      </div>
      <div>
        {(view.whyNot ?? []).map((w) => (
          <WhyNot key={w.id} guess={w} />
        ))}
      </div>
      {view.budget && view.budget.length > 0 ? (
        <div>
          <h2 className="small-title">Power along the path: now and when good</h2>
          <Budget lines={view.budget} />
        </div>
      ) : null}
      <More label="The figures behind the bars">
        <p className="small soft">
          In decibans: ten make a fault ten times likelier, three about twice. Weighed over all sets of faults at once.
        </p>
        <ul className="lines">
          {view.faults.flatMap((f) =>
            f.evidence.map((e) => (
              <li key={`${f.id} ${e.check}`} className="between small">
                <span>
                  {f.name}: {e.words}
                </span>
                <span className="nowrap">
                  {e.decibans > 0 ? "+" : "−"}
                  {Math.abs(e.decibans).toFixed(1)}
                </span>
              </li>
            )),
          )}
        </ul>
      </More>
    </section>
  );
}

type Guess = NonNullable<Loaded["view"]["whyNot"]>[number];

/** What an owner would guess first, and why it is not that, as far as is known. */
function WhyNot({ guess }: { guess: Guess }) {
  const said = (found: Guess["against"]) => found.map((e) => `${e.words} (${e.weight})`).join("; ");
  return (
    <More label={`Why not ${guess.name}? ${guess.chance}`}>
      <div className="stack small">
        <p>
          {guess.against.length > 0
            ? `Against it: ${said(guess.against)}.`
            : "Nothing you found speaks against it: other things are only likelier."}
        </p>
        {guess.for.length > 0 ? <p>For it: {said(guess.for)}.</p> : null}
        {guess.wouldTell ? <p>What would tell more: {guess.wouldTell.title}</p> : null}
      </div>
    </More>
  );
}

function Why({ fault }: { fault: Fault }) {
  return (
    <div className="why">
      <div className="between card-lead">
        <b>{fault.name}</b>
        <b className="nowrap">{fault.chance}</b>
      </div>
      {fault.before ? <p className="small">Here {fault.before}.</p> : null}
      {fault.evidence.length === 0 ? <p className="small soft">{fault.reason}</p> : null}
      {fault.evidence.map((e) => {
        const width = `${Math.min(50, (50 * Math.abs(e.decibans)) / BAR_DECIBANS)}%`;
        return (
          <div className="why-line" key={`${e.check} ${e.words} ${e.decibans}`}>
            <span>{e.words}</span>
            <span className="why-bar" aria-hidden="true">
              <i className={e.decibans > 0 ? "for" : "against"} style={{ width }} />
            </span>
            <span className="right small nowrap">
              <span className="sr">{e.decibans > 0 ? "for, " : "against, "}</span>
              {e.weight}
            </span>
          </div>
        );
      })}
    </div>
  );
}
