/** Coupons: choose a test file, see it to scale, make it. */

import "../ui/coupon.css";
import { useState } from "react";
import { data, Form, Link, redirect, useNavigation } from "react-router";
import { COUPON_FIELDS, type CouponForm, type CouponSpec, couponOf, isRefusal } from "#core/coupon";
import { type CouponStart, couponsView } from "#services/coupons/couponsView";
import { makeCoupon } from "#services/coupons/make";
import { trouble } from "#services/forms/fields";
import { gatherOnce } from "#services/machine/gather";
import { figureHere, unitsInForce, withUnit } from "#services/units";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import { Block } from "../ui/Block";
import { CouponPicture } from "../ui/CouponPicture";
import { FormProblem, RequestKey, Submit } from "../ui/form/Posted";
import { SelectField } from "../ui/form/SelectField";
import { Fields, type FormState } from "../ui/form/state";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { Notice } from "../ui/Notice";
import { keyAfter, sendKept } from "../ui/sending";
import type { Route } from "./+types/route";
import { keptMeasure, Measure, shownStart } from "./Measure";

export const loader = reading(async ({ params, request, context }: Route.LoaderArgs) => ({
  ...couponsView(await gatherOnce(context, params.machine), new URL(request.url).searchParams),
  key: context.freshKey(),
}));

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const made = await makeCoupon(context, params.machine, reader);
  if ("errors" in made) return data(trouble(reader, made.errors), { status: 400 });
  return redirect(`/${params.machine}/coupons/${made.id}?made=1`);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

type Loaded = Route.ComponentProps["loaderData"];

export default function Coupons({ loaderData: d, actionData }: Route.ComponentProps) {
  const form = d.forms.find((f) => f.id === d.form);
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div>
          <h1 className="verdict">{form?.tells}</h1>
          <p className="lead">{form?.how}</p>
        </div>
        <nav className="row tight tabs" aria-label="Test files">
          {d.forms.map((f) => (
            <LinkButton key={f.id} to={`?form=${f.id}&material=${d.materialId}`} aria-current={d.form === f.id ? "page" : undefined}>
              {f.name}
            </LinkButton>
          ))}
        </nav>
        <Maker key={d.form} d={d} failed={actionData} />
        {d.made.length > 0 ? (
          <section className="stack">
            <h2 className="card-title">Made before</h2>
            <ul className="lines">
              {d.made.map((m) => (
                <li key={m.id} className="between">
                  <Link to={`/${d.slug}/coupons/${m.id}`}>{m.text}</Link>
                  <span className="soft nowrap">{m.day}</span>
                </li>
              ))}
            </ul>
          </section>
        ) : null}
      </main>
    </div>
  );
}

/** What the fields say, as far as it can be read while it is typed. */
function specOf(form: CouponForm, typed: CouponStart, start: CouponStart): CouponSpec {
  const read = (f: keyof CouponSpec) => keptMeasure(f, typed[f] ?? "", start[f]);
  const figures = Object.fromEntries(
    COUPON_FIELDS[form].filter((f) => f !== "speedsMmPerS" && f !== "materialId").map((f) => [f, read(f)?.[0]]),
  );
  const speeds = read("speedsMmPerS");
  return { form, ...figures, ...(speeds ? { speedsMmPerS: speeds } : {}) } as CouponSpec;
}

/** Starting fields as they stand here. */
const shown = (start: CouponStart): CouponStart => Object.fromEntries(Object.entries(start).map(([f, kept]) => [f, shownStart(f, kept)]));

const drawable = (spec: CouponSpec) =>
  Object.values(spec).every((v) =>
    Array.isArray(v) ? v.every((x) => x > 0 && x <= 2000) && v.length <= 24 : typeof v !== "number" || Number.isFinite(v),
  );

function Maker({ d, failed }: { d: Loaded; failed: Partial<FormState> | undefined }) {
  const busy = useNavigation().state !== "idle";
  const [materialId, setMaterialId] = useState(failed?.typed?.materialId ?? d.materialId);
  const start = d.starts[materialId] ?? Object.values(d.starts)[0] ?? {};
  const [typed, setTyped] = useState<CouponStart>(() => failed?.typed ?? shown(start));
  const fields = COUPON_FIELDS[d.form];
  const sheet = d.materials.find((m) => m.value === materialId)?.label ?? "";
  const spec = specOf(d.form, typed, start);
  const coupon = drawable(spec) ? couponOf(spec, sheet, unitsInForce()) : undefined;
  return (
    <div className="columns maker">
      <Form method="post" className="stack" noValidate>
        <RequestKey value={keyAfter(failed, d.key)} />
        <input type="hidden" name="kind" value="coupon" />
        <input type="hidden" name="form" value={d.form} />
        <Fields state={failed}>
          <FormProblem />
          {fields.includes("materialId") ? (
            <SelectField
              name="materialId"
              label="Material"
              options={d.materials}
              defaultValue={materialId}
              onChange={(id) => {
                setMaterialId(id);
                setTyped(shown(d.starts[id] ?? start));
              }}
            />
          ) : null}
          <div className="fields">
            {fields
              .filter((f) => f !== "materialId")
              .map((f) => (
                <Measure
                  key={f}
                  field={f}
                  form={d.form}
                  value={typed[f] ?? ""}
                  start={start[f]}
                  onChange={(value) => setTyped({ ...typed, [f]: value })}
                />
              ))}
          </div>
        </Fields>
        <Submit type="primary" size="large" disabled={busy}>
          Make the file
        </Submit>
      </Form>
      <Block label="Drawing">
        {coupon === undefined || isRefusal(coupon) ? (
          <Notice kind="doubt">{coupon === undefined ? "Some figure cannot be read yet." : coupon.reason}</Notice>
        ) : (
          <>
            <CouponPicture coupon={coupon} />
            <p className="soft small">
              {figureHere(coupon.widthMm, "mm", 0)} by {withUnit(coupon.heightMm, "mm", 0)}
              {coupon.layers.filter((l) => l.use !== "print").length > 1
                ? `, ${coupon.layers.length - 1} ${coupon.layers.length === 2 ? "layer" : "layers"} and a legend`
                : ""}
            </p>
          </>
        )}
      </Block>
    </div>
  );
}
