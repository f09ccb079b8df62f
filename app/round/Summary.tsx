/** What a finished round found, did and bought. */
import { Link } from "react-router";
import { GRADES, type Grade } from "#core/beam";
import { MachineRail } from "../shell/route";
import { Posted, RequestKey } from "../ui/fields";
import { GradeShape } from "../ui/GradeMark";

export interface RoundSummary {
  readonly day: string;
  readonly minutes: string;
  readonly proof: string | undefined;
  readonly isBaseline: boolean;
  readonly gain: { readonly words: string; readonly before: string } | undefined;
  readonly grades: readonly {
    readonly id: number;
    readonly part: string;
    readonly phase: string;
    readonly grade: Grade;
    readonly photos: readonly string[];
  }[];
  /** Services written to the log. */
  readonly services: number;
  /** Photos taken at other steps than a look. */
  readonly otherPhotos: readonly string[];
  /** Found with film or worse, and only looked at. */
  readonly toClean: readonly { readonly part: string; readonly name: string; readonly word: string }[];
  readonly by: readonly string[];
  readonly skipped: readonly { readonly id: string; readonly title: string; readonly why: string }[];
  readonly caseClosed: boolean;
  /** Grades that came in after the end and say something else. */
  readonly late: readonly { readonly id: number; readonly words: string }[];
  /** What became of a proof that came after another device's. */
  readonly also: string | undefined;
  readonly key: string;
}

export function Summary({
  slug,
  title,
  status,
  caseId,
  summary,
}: {
  slug: string;
  title: string;
  status: string;
  caseId: number | undefined;
  summary: RoundSummary | undefined;
}) {
  if (!summary) return null;
  const headline =
    status === "abandoned"
      ? "Round ended without a proof."
      : summary.gain
        ? `It bought ${summary.gain.words.split(",")[0]}.`
        : "Round closed.";
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div>
          <p className="soft">
            {title} · {summary.day}
            {summary.minutes ? ` · ${summary.minutes} minutes` : ""}
            {summary.by.length > 0 ? ` · ${summary.by.join(", ")}` : ""}
            {summary.services > 0 ? ` · ${summary.services} services logged` : ""}
          </p>
          <h1 className="verdict">{headline}</h1>
          {summary.gain ? (
            <p className="lead">
              Against the ladder of {summary.gain.before}: {summary.gain.words}. One pair of ladders tells power to about 7 %, so a haze
              alone cannot show.
            </p>
          ) : null}
          {summary.proof ? <p className="lead">Proof: {summary.isBaseline ? "the baseline, 100 %" : summary.proof}.</p> : null}
        </div>
        {summary.also ? (
          <p className="caution" role="status">
            {summary.also}
          </p>
        ) : null}
        {summary.late.length > 0 ? (
          <section className="caution">
            <h2 className="card-title">Came in after the end</h2>
            <ul>
              {summary.late.map((l) => (
                <li key={l.id}>{l.words}</li>
              ))}
            </ul>
          </section>
        ) : null}
        {caseId !== undefined ? (
          <section className="card strong stack">
            <h2 className="card-title">
              {summary.caseClosed ? "The proof closed the case." : "The case stays open: the proof went in as a finding."}
            </h2>
            <p>
              <Link className={summary.caseClosed ? "button" : "button primary"} to={`/${slug}/trace/${caseId}`}>
                {summary.caseClosed ? "See the case report" : "Go on tracing"}
              </Link>
            </p>
          </section>
        ) : null}
        {summary.toClean.length > 0 ? (
          <section className="card strong stack">
            <h2 className="card-title">This look found something.</h2>
            <div className="row">
              {summary.toClean.map((c) => (
                <Posted action={`/${slug}/round`} key={c.part}>
                  <RequestKey value={`${summary.key}-${c.part}`} />
                  <input type="hidden" name="part" value={c.part} />
                  <button type="submit" className="button primary">
                    Clean {c.name} now
                  </button>{" "}
                  <span className="soft">{c.word}</span>
                </Posted>
              ))}
            </div>
          </section>
        ) : null}
        {summary.grades.length > 0 ? (
          <section>
            <h2 className="small-title">Looked at</h2>
            <ul className="lines" style={{ maxWidth: 520 }}>
              {summary.grades.map((g) => (
                <li key={g.id} className="row">
                  <svg width="26" height="26" viewBox="-13 -13 26 26" aria-hidden="true">
                    <GradeShape grade={GRADES[g.grade]} r={12} />
                  </svg>
                  <span className="grow">
                    {g.part}, {g.phase.replace("-", " ")}
                  </span>
                  {g.photos.map((hash) => (
                    <Photo key={hash} hash={hash} alt={`${g.part}, ${g.phase.replace("-", " ")}`} />
                  ))}
                  <b>{GRADES[g.grade]}</b>
                </li>
              ))}
            </ul>
          </section>
        ) : null}
        {summary.otherPhotos.length > 0 ? (
          <section>
            <h2 className="small-title">Photos</h2>
            <div className="photos">
              {summary.otherPhotos.map((hash, i) => (
                <Photo key={hash} hash={hash} alt={`${i + 1} of the round`} />
              ))}
            </div>
          </section>
        ) : null}
        {summary.skipped.length > 0 ? (
          <section>
            <h2 className="small-title">Skipped</h2>
            <ul className="lines" style={{ maxWidth: 520 }}>
              {summary.skipped.map((s) => (
                <li key={s.id}>
                  {s.title} <span className="soft">{s.why}</span>
                </li>
              ))}
            </ul>
          </section>
        ) : null}
        <p>
          <Link className="button" to={`/${slug}/today`}>
            To Today
          </Link>
        </p>
      </main>
    </div>
  );
}

function Photo({ hash, alt }: { hash: string; alt: string }) {
  return (
    <a href={`/photos/${hash}`} target="_blank" rel="noreferrer" className="thumb">
      <img src={`/photos/${hash}`} alt={alt} />
    </a>
  );
}
