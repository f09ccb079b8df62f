/** Entry of a bed map: five coupons where they lay on the bed, its back at the top. */
import type { BedMapStart } from "#services/log/options";
import { CouponResult, squareOf } from "./CouponResult";
import { useFormState } from "./form/state";
import { Notice } from "./Notice";

export function BedMapEntry({ map }: { map: BedMapStart }) {
  const { errors } = useFormState();
  return (
    <div className="stack">
      <input type="hidden" name="bedWidthMm" value={map.bedWidthMm} />
      <input type="hidden" name="bedDepthMm" value={map.bedDepthMm} />
      <p className="soft small">Press a square until it says what happened. The top is the back of the machine.</p>
      <div className="coupon-map">
        {map.places.map((p) => (
          <section key={p.id} className={p.id === "middle" ? "stack middle" : "stack"}>
            <b>{p.name}</b>
            <input type="hidden" name={`x-${p.id}`} value={p.xMm} />
            <input type="hidden" name={`y-${p.id}`} value={p.yMm} />
            <CouponResult quiet label={`The coupon ${p.name}`} squares={map.speeds.map((kept, i) => squareOf(`${p.id}-${i}`, kept))} />
          </section>
        ))}
      </div>
      {errors.places ? <Notice kind="problem">{errors.places}</Notice> : null}
    </div>
  );
}
