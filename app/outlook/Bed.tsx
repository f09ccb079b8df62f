/** The bed from above with how strong the beam is where; the corner the beam comes in at is marked. */
import type { outlookView } from "#services/outlook/outlookView";
import { Block } from "../ui/Block";
import { LinkButton } from "../ui/LinkButton";

type BedMap = NonNullable<Awaited<ReturnType<typeof outlookView>>["bed"]>;

export function Bed({ bed, slug }: { bed: BedMap | undefined; slug: string }) {
  if (!bed) {
    return (
      <Block strong>
        <h2 className="card-title">No map of the bed yet.</h2>
        <p>
          Five small ladders, one in each corner and one in the middle, tell whether the beam is as strong everywhere. A map grows old when
          a mirror is taken out or aimed.
        </p>
        <LinkButton type="primary" to={`/${slug}/coupons?form=bed-map`}>
          Make the file
        </LinkButton>
      </Block>
    );
  }
  return (
    <div className="columns maker">
      <Block label="The bed from above">
        <Picture bed={bed} />
        <p className="soft small">Of the strongest place. The top is the back of the machine; the beam comes in at the marked corner.</p>
      </Block>
      <section className="stack">
        <h2 className="card-title">
          {bed.says.charAt(0).toUpperCase()}
          {bed.says.slice(1)}
        </h2>
        <p className="soft">By the map of {bed.day}. How much speaks for each pattern:</p>
        <ul className="lines">
          {bed.weights.map((w) => (
            <li key={w.pattern} className="between">
              <span>{w.pattern}</span>
              <b>{w.said}</b>
            </li>
          ))}
        </ul>
        <LinkButton to={`/${slug}/coupons?form=bed-map`}>Cut another map</LinkButton>
      </section>
    </div>
  );
}

function Picture({ bed }: { bed: BedMap }) {
  const { widthMm: w, depthMm: d } = bed;
  const r = Math.min(w, d) / 9;
  const size = r * 0.62;
  const [cx, cy] = [bed.corner.endsWith("right") ? w : 0, bed.corner.startsWith("front") ? d : 0];
  const inside = (v: number, max: number) => Math.min(max - r * 1.1, Math.max(r * 1.1, v));
  return (
    <svg
      viewBox={`${-r / 2} ${-r / 2} ${w + r} ${d + r}`}
      className="bed-map"
      role="img"
      aria-label={bed.places.map((p) => `${p.name}: ${p.percent} %`).join(", ")}
    >
      <rect x="0" y="0" width={w} height={d} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={r / 20} />
      <circle cx={cx} cy={cy} r={r / 3} fill="var(--hot)" />
      {bed.places.map((p) => (
        <g key={p.id}>
          {/* As full as it is strong, so that it is not told by colour. */}
          <circle cx={inside(p.xMm, w)} cy={inside(p.yMm, d)} r={r} fill="var(--card)" stroke="var(--ink)" strokeWidth={r / 20} />
          <circle cx={inside(p.xMm, w)} cy={inside(p.yMm, d)} r={(r * p.percent) / 100} fill="var(--hot-pale)" />
          <text x={inside(p.xMm, w)} y={inside(p.yMm, d) + size / 3} textAnchor="middle" fontSize={size} fontWeight="650" fill="var(--ink)">
            {p.percent}
          </text>
        </g>
      ))}
    </svg>
  );
}
