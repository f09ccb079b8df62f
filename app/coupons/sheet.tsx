/** A test file on paper at full size: the drawing, what each layer is cut with, and room for how it went. */

import "../ui/coupon.css";
import { Button, Table } from "antd";
import { madeView } from "#services/coupons/couponsView";
import { recordId } from "#services/forms/fields";
import { gatherOnce } from "#services/machine/gather";
import { reading } from "../server/reading";
import { CouponPicture } from "../ui/CouponPicture";
import { LinkButton } from "../ui/LinkButton";
import { Notice } from "../ui/Notice";
import type { Route } from "./+types/sheet";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) =>
  madeView(await gatherOnce(context, params.machine), recordId(params.couponId)),
);

/** Wider than this it does not fit the paper, and is drawn smaller. */
const PAPER_MM = 190;

export default function Sheet({ loaderData: d }: Route.ComponentProps) {
  const { widthMm } = d.coupon;
  const fits = widthMm <= PAPER_MM;
  return (
    <main className="page sheet stack loose">
      <div className="row no-print">
        <Button type="primary" onClick={() => window.print()}>
          Print
        </Button>
        <LinkButton to={`/${d.slug}/coupons/${d.id}`}>Back</LinkButton>
      </div>
      <div>
        <h1 className="verdict">
          {d.machine}: {d.name.toLowerCase()}
        </h1>
        <p className="soft">
          {d.sheet ? `${d.sheet} · ` : ""}
          {d.day} · {fits ? "full size: print without scaling" : `not to scale: ${Math.round(widthMm)} mm wide`}
        </p>
      </div>
      <CouponPicture coupon={d.coupon} width={`${fits ? widthMm : PAPER_MM}mm`} />
      <p>{d.how}</p>
      <Notice kind="caution">
        {d.form === "rings"
          ? "Short pulse at 15 to 20 % power, panels on, lid closed. Test a scrap of the tape first: some catch fire. The maker's manual comes first."
          : "Lid shut, exhaust and assist air on, extinguisher at hand; stay with it. The maker's manual comes first."}
      </Notice>
      {d.coupon.targets.length > 0 ? (
        <Table<(typeof d.coupon.targets)[number]>
          size="small"
          pagination={false}
          rowKey="id"
          dataSource={[...d.coupon.targets]}
          columns={[
            ...(d.coupon.places.length > 0
              ? [
                  {
                    title: "Where",
                    key: "where",
                    render: (_: unknown, t: { place?: string }) => d.coupon.places.find((p) => p.id === t.place)?.name ?? "",
                  },
                ]
              : []),
            { title: "What", dataIndex: "label" },
            ...["dropped", "hangs", "stays"].map((end) => ({
              title: end,
              key: end,
              render: () => <i className="sheet-box" aria-hidden="true" />,
            })),
          ]}
        />
      ) : null}
    </main>
  );
}
