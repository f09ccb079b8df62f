/** The one thing to do first, large; and folded under it all else that could be done. */
import { lowerFirst, number, wholeMinutes } from "#services/words";
import { Block } from "../ui/Block";
import { LinkButton } from "../ui/LinkButton";
import { More } from "../ui/More";
import type { Route } from "./+types/route";
import { Bad, Offer, RoundStart } from "./Offer";

type Loaded = Route.ComponentProps["loaderData"];

export function First({ data }: { data: Loaded }) {
  const { first, offer } = data;
  if (first.kind === "nothing") return null;
  return (
    <Block strong label="First">
      <div className="between">
        <h2 className="card-title larger">{first.title}</h2>
        {first.minutes === undefined || first.minutes === "0" ? null : (
          <span className="soft nowrap">
            {first.minutes} min
            {first.kind === "offer" && offer.minutesMost > offer.minutes + 1 ? (
              <span className="hide-narrow">, up to {number(offer.minutesMost, 0)} with drying</span>
            ) : null}
          </span>
        )}
      </div>
      {first.lines?.map((line) => (
        <p key={line}>{line}</p>
      ))}
      <FirstAct data={data} />
    </Block>
  );
}

function FirstAct({ data }: { data: Loaded }) {
  const { first, slug } = data;
  switch (first.kind) {
    case "round":
      return (
        <div className="row">
          <LinkButton type="primary" size="large" to={`/${slug}/round/${first.roundId}`}>
            Go on with it
          </LinkButton>
        </div>
      );
    case "start":
      return (
        <div className="row">
          <RoundStart slug={slug} parts={first.parts} requestKey={`${data.keys.round}-first`} primary label={first.label} />
        </div>
      );
    case "case":
      return (
        <div className="row">
          <LinkButton type="primary" size="large" to={`/${slug}/trace/${first.caseId}`}>
            {first.label}
          </LinkButton>
          {first.meanwhile ? (
            <RoundStart
              slug={slug}
              parts={first.meanwhile.parts}
              requestKey={`${data.keys.round}-meanwhile`}
              label={first.meanwhile.label}
            />
          ) : null}
        </div>
      );
    case "go":
      return (
        <div className="row">
          <LinkButton type="primary" size="large" to={`/${slug}/${first.to}`}>
            {first.label}
          </LinkButton>
          {first.other ? <LinkButton to={`/${slug}/${first.other.to}`}>{first.other.label}</LinkButton> : null}
        </div>
      );
    case "offer":
      return <Offer data={data} primary={data.mayFire || data.bad.length === 0} />;
    default:
      return null;
  }
}

/** What else could be done: folded, and said in one line. */
export function Also({ data }: { data: Loaded }) {
  const { first, offer, openCases, bad } = data;
  if (data.openRoundId !== undefined) return null;
  const cases = first.kind === "case" ? openCases.slice(1) : openCases;
  const hasOffer = first.kind !== "offer" && offer.lines.length > 0;
  // What the first thing does is not said twice.
  const inOffer = new Set(offer.parts);
  const left = bad.filter(
    (b) => !(b.clean !== undefined && inOffer.has(b.clean)) && !(first.kind === "start" && b.replace === first.parts[0]),
  );
  if (!hasOffer && cases.length === 0 && left.length === 0) return null;
  const names = offer.lines.slice(0, 4).map((l) => lowerFirst(l.name));
  const due = hasOffer
    ? `${offer.urged ? "Also due" : "Next in turn"}: ${names.join(", ")}${offer.lines.length > 4 ? ` and ${offer.lines.length - 4} more` : ""}`
    : "";
  const others = [
    left.length > 0 ? `${left.length} still to repair` : "",
    cases.length > 0 ? `${cases.length} more open case${cases.length > 1 ? "s" : ""}` : "",
  ].filter(Boolean);
  return (
    <More label={[due, ...others].filter(Boolean).join(" · ")}>
      <div className="stack loose">
        {left.length > 0 ? <Bad data={{ ...data, bad: left }} /> : null}
        {cases.map((c) => (
          <div key={c.id} className="between">
            <span className="grow">
              <b>{c.title}</b>, since {c.since}. <span className="soft">{c.words}</span>
            </span>
            <LinkButton to={`/${data.slug}/trace/${c.id}`}>Go on with this case</LinkButton>
          </div>
        ))}
        {hasOffer ? (
          <section className="stack">
            <h2 className="card-title">
              {offer.urged ? "What is due" : "Next in turn"}: {wholeMinutes(offer.minutes)} min
            </h2>
            <Offer data={data} primary={false} />
          </section>
        ) : null}
      </div>
    </More>
  );
}
