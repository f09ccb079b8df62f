/** The end of a round: a ladder as its proof, the failed test repeated, or a reason why there is none today. */
import { RequestKey } from "../ui/fields";
import { LadderEntry } from "../ui/LadderEntry";
import type { Route } from "./+types/run";

type Loaded = Route.ComponentProps["loaderData"];

export function Proof({
  data: loaded,
  failed,
}: {
  data: Loaded;
  failed: { errors: Readonly<Record<string, string>>; typed: Readonly<Record<string, string>> } | undefined;
}) {
  return (
    <div className="stack loose">
      <form method="post" id="proof" className="card strong stack" noValidate>
        <RequestKey value={loaded.key} />
        <input type="hidden" name="intent" value="ladder" />
        <LadderEntry materials={loaded.materials} errors={failed?.errors ?? {}} typed={failed?.typed ?? {}} />
      </form>
      {loaded.repeat ? (
        <form method="post" className="card stack">
          <RequestKey value={`${loaded.key}-repeat`} />
          <input type="hidden" name="intent" value="repeat" />
          <input type="hidden" name="check" value={loaded.repeat.check} />
          <p>
            <b>Or repeat the test that failed.</b> {loaded.repeat.question} A ladder is the stronger proof.
          </p>
          <div className="answers">
            {loaded.repeat.outcomes.map((o) => (
              <button key={o.id} type="submit" name="outcome" value={o.id} className="button">
                {o.label}
              </button>
            ))}
          </div>
        </form>
      ) : null}
      <details>
        <summary>No proof today</summary>
        <form method="post" className="row" style={{ marginTop: 8 }}>
          <input type="hidden" name="intent" value="abandon" />
          <RequestKey value={`${loaded.key}-end`} />
          <input
            className="ant-input"
            style={{ minHeight: 44, flex: 1, padding: "4px 12px", border: "1px solid var(--line)", borderRadius: 4, font: "inherit" }}
            name="why"
            aria-label="Why without proof"
            placeholder="why? for example: no scrap left"
            maxLength={200}
          />
          <button type="submit" className="button">
            End without proof
          </button>
        </form>
        {failed?.errors.why ? <p className="hot">{failed.errors.why}</p> : null}
      </details>
    </div>
  );
}
