/** What a finished round found, did and gained. */

import { GRADES } from "#core/beam";
import type { roundView } from "#services/rounds/roundView";
import { BadAction } from "../ui/BadAction";
import { Block } from "../ui/Block";
import { counted } from "../ui/counted";
import { GradeShape } from "../ui/GradeMark";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { Notice } from "../ui/Notice";
import { unbroken } from "../ui/unbroken";

type RoundSummary = NonNullable<Awaited<ReturnType<typeof roundView>>["summary"]>;

export function Summary({
  slug,
  title,
  status,
  caseId,
  summary,
  also,
  requestKey,
}: {
  slug: string;
  title: string;
  status: string;
  caseId: number | undefined;
  summary: RoundSummary;
  /** What became of a proof that came after another device's. */
  also: string | undefined;
  requestKey: string;
}) {
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <Bought title={title} status={status} summary={summary} />
        {also ? (
          <Notice kind="caution" role="status">
            {also}
          </Notice>
        ) : null}
        {summary.late.length > 0 ? (
          <Notice kind="caution">
            <h2 className="card-title">Came in after the end</h2>
            <ul>
              {summary.late.map((l) => (
                <li key={l.id}>{l.words}</li>
              ))}
            </ul>
          </Notice>
        ) : null}
        {caseId !== undefined ? <CaseAfter slug={slug} caseId={caseId} isClosed={summary.caseClosed} /> : null}
        {summary.bad.length > 0 ? (
          <Block strong>
            <h2 className="card-title">Still needs work.</h2>
            <ul className="lines">
              {summary.bad.map((b) => (
                <li key={b.id} className="between">
                  <span className="grow">
                    <b>{b.name}</b> <span className="hot">{b.word}</span>
                  </span>
                  <BadAction slug={slug} bad={b} requestKey={`${requestKey}-${b.id}`} />
                </li>
              ))}
            </ul>
          </Block>
        ) : null}
        <Inspected grades={summary.grades} />
        {summary.dustSheet ? (
          <p>When the machine is cold and nothing glows, put the dust sheet over it. Never over a warm machine.</p>
        ) : null}
        {summary.otherPhotos.length > 0 ? (
          <section>
            <h2 className="small-title">Photos</h2>
            <div className="row tight photos">
              {summary.otherPhotos.map((hash, i) => (
                <Photo key={hash} hash={hash} alt={`${i + 1} of the round`} />
              ))}
            </div>
          </section>
        ) : null}
        <Lines title="Notes" lines={summary.notes.map((n) => ({ id: n.id, title: n.title, words: n.note }))} />
        <Lines title="Skipped" lines={summary.skipped.map((s) => ({ id: s.id, title: s.title, words: s.why }))} />
        <p>
          <LinkButton to={`/${slug}/today`}>To Today</LinkButton>
        </p>
      </main>
    </div>
  );
}

/** What the round bought: its first sentence, and the test that says so. */
function Bought({ title, status, summary }: { title: string; status: string; summary: RoundSummary }) {
  const headline = status === "abandoned" ? "Round ended without a final test." : summary.gain ? summary.gain.headline : "Round closed.";
  return (
    <div>
      <p className="soft">
        {title} · {summary.day}
        {summary.minutes ? ` · ${counted(summary.minutes, "minute")}` : ""}
        {summary.by.length > 0 ? ` · ${summary.by.join(", ")}` : ""}
        {summary.services > 0 ? ` · ${counted(summary.services, "service")} logged` : ""}
      </p>
      <h1 className="verdict">{unbroken(headline)}</h1>
      {summary.gain ? (
        <p className="lead">
          Against the ladder of {summary.gain.before}: {summary.gain.words}. Two ladders show power to within about 7 %, so a haze alone
          cannot show.
        </p>
      ) : null}
      {summary.proof ? <p className="lead">Final test: {summary.isBaseline ? "the baseline, 100 %" : summary.proof}.</p> : null}
    </div>
  );
}

function CaseAfter({ slug, caseId, isClosed }: { slug: string; caseId: number; isClosed: boolean }) {
  return (
    <Block strong>
      <h2 className="card-title">
        {isClosed ? "The final test closed the case." : "The case stays open: the final test went in as a finding."}
      </h2>
      <p>
        <LinkButton type={isClosed ? "default" : "primary"} to={`/${slug}/trace/${caseId}`}>
          {isClosed ? "See the case report" : "Go on with the case"}
        </LinkButton>
      </p>
    </Block>
  );
}

function Inspected({ grades }: { grades: RoundSummary["grades"] }) {
  if (grades.length === 0) return null;
  return (
    <section>
      <h2 className="small-title">Inspected</h2>
      <ul className="lines narrow">
        {grades.map((g) => (
          <li key={g.id} className="row">
            <svg width="26" height="26" viewBox="-13 -13 26 26" aria-hidden="true">
              <GradeShape grade={GRADES[g.grade]} r={12} />
            </svg>
            <span className="grow">
              {g.part}, {g.phase}
            </span>
            {g.photos.map((hash) => (
              <Photo key={hash} hash={hash} alt={`${g.part}, ${g.phase}`} />
            ))}
            <b>{g.word}</b>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Steps with what was said of each. */
function Lines({
  title,
  lines,
}: {
  title: string;
  lines: readonly { readonly id: string; readonly title: string; readonly words: string | undefined }[];
}) {
  if (lines.length === 0) return null;
  return (
    <section>
      <h2 className="small-title">{title}</h2>
      <ul className="lines narrow">
        {lines.map((l) => (
          <li key={l.id}>
            {l.title} <span className="soft">{l.words}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Photo({ hash, alt }: { hash: string; alt: string }) {
  return (
    <a href={`/photos/${hash}`} target="_blank" rel="noreferrer" className="thumb">
      <img src={`/photos/${hash}`} alt={alt} />
    </a>
  );
}
