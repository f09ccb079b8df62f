/** The one round worth doing now, with what it does and how long each part takes. */

import { number } from "#services/words";
import { BadAction } from "../ui/BadAction";
import { Block } from "../ui/Block";
import { Posted, RequestKey, Submit } from "../ui/form/Posted";
import { LinkButton } from "../ui/LinkButton";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];

export function Offer({ data }: { data: Loaded }) {
  const { offer, slug } = data;
  if (data.openRoundId !== undefined) {
    return (
      <Block strong>
        <h2 className="card-title">The round is open</h2>
        <LinkButton type="primary" to={`/${slug}/round/${data.openRoundId}`}>
          Go on with it
        </LinkButton>
      </Block>
    );
  }
  if (data.offer.lines.length === 0) return null;
  return (
    <Block strong label="Round offered">
      <div className="between">
        <h2 className="card-title">
          {titleOf(data)}: {number(offer.minutes)} minutes
        </h2>
        {offer.minutesMost > offer.minutes + 1 ? (
          <span className="soft hide-narrow">up to {number(offer.minutesMost, 0)} with wipes and drying</span>
        ) : null}
      </div>
      <ul className="lines">
        {offer.lines.map((line) => (
          <li className="offer-line" key={line.id}>
            <b>{line.name}</b>
            <span>{line.does}</span>
            <span className={line.late ? "hot" : "soft"}>{line.due}</span>
            <span className="right nowrap">{number(line.minutes)} min</span>
          </li>
        ))}
        <li className="offer-line">
          <b>Around it</b>
          <span>made safe, hands, covers, power; {offer.proof}</span>
          <span />
          <span className="right nowrap">{number(offer.frameMinutes)} min</span>
        </li>
      </ul>
      <div className="row">
        <RoundStart
          slug={slug}
          parts={offer.parts}
          requestKey={data.keys.round}
          primary={data.openCases.length === 0 && data.hasBaseline && data.mayFire}
          label="Start this round"
        />
        {data.shorter.map((s) => (
          <RoundStart
            key={s.id}
            slug={slug}
            parts={s.parts}
            requestKey={`${data.keys.quick}-${s.id}`}
            label={`${s.label}, ${number(s.minutes)} min`}
          />
        ))}
      </div>
    </Block>
  );
}

function titleOf({ offer, bad, mayFire }: Loaded): string {
  // What is broken is in no round but its own.
  if (!mayFire) return `Once another is in, ${offer.neverGraded ? "a first round" : "one round"}`;
  if (offer.urged) return "One round does it";
  if (offer.neverGraded) return "Nothing was ever looked at here. A first round";
  return bad.length > 0 ? "Nothing else is urgent. Next in turn" : "Nothing is urgent. Next in turn";
}

/** What was seen bad and not mended: it stays here until somebody mends it or sees it clear. */
export function Bad({ data }: { data: Loaded }) {
  if (data.bad.length === 0 || data.openRoundId !== undefined) return null;
  return (
    <Block strong label="Seen bad, not mended">
      <h2 className="card-title">Seen bad, not mended yet</h2>
      <ul className="lines">
        {data.bad.map((b) => (
          <li key={b.station} className="between">
            <span className="grow">
              <b>{b.name}</b> <span className="hot">{b.word}</span> <span className="soft">{b.since}</span>
            </span>
            <BadAction slug={data.slug} bad={b} requestKey={`${data.keys.round}-${b.station}`} />
          </li>
        ))}
      </ul>
    </Block>
  );
}

function RoundStart({
  slug,
  parts,
  requestKey,
  label,
  primary,
}: {
  slug: string;
  parts: readonly string[];
  requestKey: string;
  label: string;
  primary?: boolean;
}) {
  return (
    <Posted action={`/${slug}/round`}>
      <RequestKey value={requestKey} />
      {parts.map((p) => (
        <input key={p} type="hidden" name="part" value={p} />
      ))}
      <Submit type={primary ? "primary" : "default"}>{label}</Submit>
    </Posted>
  );
}
