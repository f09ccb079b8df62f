/** A test file to scale, as it will be cut: every layer in its colour. */

import "./coupon.css";
import { type Coupon, hexOf, pathData } from "#core/coupon";
import { figureHere, withUnit } from "#services/units";

export function CouponPicture({ coupon, width }: { coupon: Coupon; width?: string }) {
  const { widthMm: w, heightMm: h } = coupon;
  // Lines as thin as a beam would not be seen.
  const stroke = Math.max(0.25, w / 420);
  return (
    <div className="coupon-picture" {...(width ? { style: { width } } : {})}>
      <svg
        viewBox={`0 0 ${w} ${h}`}
        role="img"
        aria-label={`${coupon.title}, ${figureHere(w, "mm", 0)} by ${withUnit(h, "mm", 0)}`}
        fill="none"
        strokeWidth={stroke}
      >
        {coupon.layers.map((layer, i) => (
          <g key={layer.id} stroke={layer.id === "legend" ? "var(--soft)" : hexOf(i)}>
            {coupon.shapes
              .filter((s) => s.layer === layer.id)
              .map((s, k) =>
                s.form === "circle" ? (
                  // biome-ignore lint/suspicious/noArrayIndexKey: the shapes of a layer never change their order
                  <circle key={k} cx={s.x} cy={s.y} r={s.radiusMm} />
                ) : (
                  // biome-ignore lint/suspicious/noArrayIndexKey: the shapes of a layer never change their order
                  <path key={k} d={pathData(s.points, s.closed)} />
                ),
              )}
          </g>
        ))}
      </svg>
    </div>
  );
}
