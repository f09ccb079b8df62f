/** The round worth doing now, with what it does and how long each part takes; and what was seen bad. */

import { wholeMinutes } from "#services/words";
import { BadAction } from "../ui/BadAction";
import { Posted, RequestKey, Submit } from "../ui/form/Posted";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];

export function Offer({ data, primary }: { data: Loaded; primary: boolean }) {
  const { offer, slug } = data;
  if (offer.lines.length === 0) return null;
  return (
    <>
      <ul className="lines">
        {offer.lines.map((line) => (
          <li className="offer-line" key={line.id}>
            <b>{line.name}</b>
            <span>{line.does}</span>
            <span className={line.late ? "hot" : "soft"}>{line.due}</span>
            <span className="right nowrap">{wholeMinutes(line.minutes)} min</span>
          </li>
        ))}
        <li className="offer-line">
          <b>Before and after</b>
          <span>make safe, wash hands, covers on, power on; {offer.proof}</span>
          <span />
          <span className="right nowrap">{wholeMinutes(offer.frameMinutes)} min</span>
        </li>
      </ul>
      <div className="row">
        <RoundStart slug={slug} parts={offer.parts} requestKey={data.keys.round} primary={primary} label="Start this round" />
        {data.shorter.map((s) => (
          <RoundStart
            key={s.id}
            slug={slug}
            parts={s.parts}
            requestKey={`${data.keys.quick}-${s.id}`}
            label={`${s.label}, ${wholeMinutes(s.minutes)} min`}
          />
        ))}
      </div>
    </>
  );
}

/** What was seen bad and not repaired: it stays here until somebody repairs it or sees it clear. */
export function Bad({ data }: { data: Loaded }) {
  if (data.bad.length === 0 || data.openRoundId !== undefined) return null;
  return (
    <section className="stack" aria-label="Still needs work">
      <h2 className="card-title">Still needs work</h2>
      <ul className="lines">
        {data.bad.map((b) => (
          <li key={b.id} className="between">
            <span className="grow">
              <b>{b.name}</b> <span className="hot">{b.word}</span> <span className="soft">{b.since}</span>
            </span>
            <BadAction slug={data.slug} bad={b} requestKey={`${data.keys.round}-${b.id}`} />
          </li>
        ))}
      </ul>
    </section>
  );
}

export function RoundStart({
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
