/** A label for the machine: pointed at with a phone, it opens Today. */
import "./workshop.css";
import { Button, QRCode } from "antd";
import { gatherOnce } from "#services/machine/gather";
import { reading } from "../server/reading";
import { LinkButton } from "../ui/LinkButton";
import { Notice } from "../ui/Notice";
import type { Route } from "./+types/label";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => {
  const g = await gatherOnce(context, params.machine);
  return {
    slug: g.machine.slug,
    name: g.machine.name,
    urls: context.lanUrls.map((url) => `${url.replace(/\/$/, "")}/${g.machine.slug}/today`),
  };
});

export default function Label({ loaderData: d }: Route.ComponentProps) {
  const [first, ...others] = d.urls;
  return (
    <main className="page sheet stack loose">
      <div className="row no-print">
        <Button type="primary" onClick={() => window.print()} disabled={first === undefined}>
          Print
        </Button>
        <LinkButton to={`/${d.slug}/workshop?tab=devices`}>Back</LinkButton>
      </div>
      {first === undefined ? <h1 className="verdict">A label for {d.name}</h1> : null}
      {first === undefined ? (
        <Notice kind="doubt">
          Only this computer can open Clenor so far, so a label would lead a phone nowhere. Start it with <code>npm start -- --lan</code>,
          then print the label.
        </Notice>
      ) : (
        <div className="machine-label">
          <div role="img" aria-label={`Code for ${first}`}>
            <QRCode value={first} type="svg" size={210} bordered={false} />
          </div>
          <div>
            <h1 className="verdict">{d.name}</h1>
            <p className="big">Point a phone here before the first job.</p>
            <p className="small">{first}</p>
            <p className="small">The maker's manual comes first.</p>
          </div>
        </div>
      )}
      {others.length > 0 ? <p className="soft no-print">Other addresses of this computer: {others.join(", ")}</p> : null}
    </main>
  );
}
