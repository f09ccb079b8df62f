/** A test file that was made: take it to the machine, and tell on its drawing how it went. */

import "../ui/coupon.css";
import { Button } from "antd";
import { Suspense } from "react";
import { data, Form, redirect, useNavigation } from "react-router";
import { madeView } from "#services/coupons/couponsView";
import { recordId, trouble } from "#services/forms/fields";
import { keepEntry } from "#services/log/keepEntry";
import { gatherOnce } from "#services/machine/gather";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import { Block } from "../ui/Block";
import { CouponPicture } from "../ui/CouponPicture";
import { fetched } from "../ui/fetched";
import { FormProblem, RequestKey, Submit } from "../ui/form/Posted";
import { Fields, type FormState } from "../ui/form/state";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { Notice } from "../ui/Notice";
import { keyAfter, sendKept } from "../ui/sending";
import type { Route } from "./+types/made";

const Result = fetched(() => import("./Result").then((m) => m.Result));

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => ({
  ...madeView(await gatherOnce(context, params.machine), recordId(params.couponId)),
  key: context.freshKey(),
}));

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const entry = await keepEntry(context, params.machine, reader);
  if (entry.kept === undefined || entry.kept === "meanwhile") return data(trouble(reader, entry.errors), { status: 400 });
  if (entry.firstBaseline) return redirect(`/${params.machine}/today`);
  return redirect(`/${params.machine}/log?kind=${entry.kind}&show=${entry.kind}&saved=1`);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

/** What the result of each form becomes in the log. */
const KIND_OF = { ladder: "ladder", shapes: "cut", "bed-map": "bed-map", ramp: "focus", block: "engraving", rings: "tape" } as const;

export default function Made({ loaderData: d, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== "idle";
  const failed = actionData as Partial<FormState> | undefined;
  const isCut = d.form !== "rings";
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div>
          <p className="soft">
            Made {d.day} · {d.name.toLowerCase()}
            {d.sheet ? ` in ${d.sheet}` : ""}
          </p>
          <h1 className="verdict">{isCut ? "Cut it, then tell how it went." : "Print it, then tape."}</h1>
          <p className="lead">{d.how}</p>
        </div>
        <div className="row">
          <Button type="primary" href={`/${d.slug}/coupons/${d.id}/file/svg`} download>
            SVG
          </Button>
          <Button href={`/${d.slug}/coupons/${d.id}/file/dxf`} download>
            DXF
          </Button>
          <LinkButton to={`/${d.slug}/coupons/${d.id}/sheet`}>On paper, at full size</LinkButton>
        </div>
        <div className="columns maker">
          <div className="stack">
            {isCut ? (
              <Notice kind="caution">
                Lid shut, exhaust and assist air on, extinguisher at hand; stay with it until the last line is cut. The maker's manual comes
                first.
              </Notice>
            ) : (
              <Notice kind="caution">
                Short pulse at 15 to 20 % power, panels on, lid closed. Test a scrap of the tape first: some catch fire. The maker's manual
                comes first.
              </Notice>
            )}
            <Block strong label="How it went">
              <Form method="post" className="stack" noValidate>
                <RequestKey value={keyAfter(failed, d.key)} />
                <input type="hidden" name="kind" value={KIND_OF[d.form]} />
                <Fields state={failed}>
                  <FormProblem />
                  <Suspense>
                    <Result d={d} />
                  </Suspense>
                </Fields>
                <Submit type="primary" disabled={busy}>
                  Keep this result
                </Submit>
              </Form>
            </Block>
          </div>
          <Block label="Drawing">
            <CouponPicture coupon={d.coupon} />
            <ul className="lines small">
              {d.coupon.layers.map((l) => (
                <li key={l.id}>{l.name}</li>
              ))}
            </ul>
          </Block>
        </div>
      </main>
    </div>
  );
}
