/** A round on paper: every step with its agents, cautions and a box to tick, for a workshop without a screen. */

import "./round.css";
import { Button } from "antd";
import { gatherOnce } from "#services/machine/gather";
import { sheetView } from "#services/rounds/sheetView";
import { reading } from "../server/reading";
import { LinkButton } from "../ui/LinkButton";
import { Notice } from "../ui/Notice";
import type { Route } from "./+types/sheet";
import { Fetch } from "./Fetch";

export const loader = reading(async ({ params, request, context }: Route.LoaderArgs) =>
  sheetView(context, await gatherOnce(context, params.machine), new URL(request.url).searchParams),
);

export default function Sheet({ loaderData: d }: Route.ComponentProps) {
  return (
    <main className="page sheet stack loose">
      <div className="row no-print">
        <Button type="primary" onClick={() => window.print()}>
          Print
        </Button>
        <LinkButton to={d.back}>Back</LinkButton>
      </div>
      <div>
        <h1 className="verdict">
          {d.machine}: {d.title}
        </h1>
        <p className="soft">
          {d.day} · about {d.minutes} minutes · the maker's manual, local codes and qualified people come first
        </p>
      </div>
      <Fetch list={d.fetch} />
      <ol className="sheet-steps">
        {d.steps.map((s) => (
          <li key={s.id} className="sheet-step">
            <i className="sheet-box" aria-hidden="true" />
            <div>
              <b>{s.title}</b> <span className="soft small">{s.part}</span>
              {s.onlyIf ? (
                <p className="small">
                  <em>{s.onlyIf}.</em>
                </p>
              ) : null}
              <p>{s.text}</p>
              {s.caution ? <Notice kind="caution">{s.caution}</Notice> : null}
              {s.agents ? <p className="small">With: {s.agents.map((a) => a.name).join(", ")}.</p> : null}
              {s.refused ? <p className="small">Never: {s.refused.map((r) => r.name).join(", ")}.</p> : null}
              {s.tick ? <p className="small">☐ {s.tick}</p> : null}
              {s.answers.length > 0 ? <p className="small">{s.answers.map((a) => `☐ ${a}`).join("   ")}</p> : null}
            </div>
          </li>
        ))}
      </ol>
    </main>
  );
}
