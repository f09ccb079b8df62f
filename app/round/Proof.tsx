/** The end of a round: a ladder as its proof, a test piece, the failed test repeated, or a reason why there is none today. */
import type { ReactNode } from "react";
import { Form } from "react-router";
import { Choices, FormProblem, RequestKey, SelectField } from "../ui/fields";
import { LadderEntry } from "../ui/LadderEntry";
import type { Route } from "./+types/run";

type Loaded = Route.ComponentProps["loaderData"];
/** What was wrong with the proof as it was entered, and what was typed. */
export type ProofTrouble = { errors: Readonly<Record<string, string>>; typed: Readonly<Record<string, string>> } | undefined;

export function Proof({ data: loaded, failed }: { data: Loaded; failed: ProofTrouble }) {
  // A round that only looked is proven by a test piece; a ladder says more and stays at hand.
  const pieceFirst = loaded.steps.at(-1)?.id === "piece" && loaded.pieces.length > 0;
  const ladder = (
    <Form method="post" id={pieceFirst ? undefined : "proof"} className="card strong stack" noValidate>
      <RequestKey value={loaded.key} />
      <input type="hidden" name="intent" value="ladder" />
      <LadderEntry materials={loaded.materials} errors={failed?.errors ?? {}} typed={failed?.typed ?? {}} />
      {pieceFirst ? <Submit>Close with this ladder</Submit> : null}
    </Form>
  );
  const piece = (
    <Form method="post" id={pieceFirst ? "proof" : undefined} className="card strong stack">
      <RequestKey value={`${loaded.key}-piece`} />
      <input type="hidden" name="intent" value="piece" />
      {pieceFirst ? null : (
        <p className="soft">At your usual setting. One minute, and weaker than a ladder: it says through or not, not how strong.</p>
      )}
      <SelectField
        name="pieceMaterialId"
        label="In"
        options={loaded.pieces.map((m) => ({ value: String(m.id), label: m.label }))}
        defaultValue={failed?.typed.pieceMaterialId}
      />
      <Choices
        name="pieceResult"
        label="It went"
        error={failed?.errors.piece}
        options={[
          { value: "through", label: "through" },
          { value: "hangs", label: "hangs" },
          { value: "part-through", label: "part" },
          { value: "surface-only", label: "surface" },
        ]}
      />
      {pieceFirst ? null : <Submit>Close with this piece</Submit>}
    </Form>
  );
  return (
    <div className="stack loose">
      <FormProblem errors={failed?.errors} />
      {pieceFirst ? piece : ladder}
      {loaded.repeat ? (
        <Form method="post" className="card stack">
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
        </Form>
      ) : null}
      {pieceFirst ? (
        <details>
          <summary>A ladder instead</summary>
          {ladder}
        </details>
      ) : loaded.pieces.length > 0 ? (
        <details open={failed?.errors.piece !== undefined}>
          <summary>Only a test piece: a small circle and a square</summary>
          {piece}
        </details>
      ) : null}
      <details open={failed?.errors.why !== undefined}>
        <summary>No proof today</summary>
        <Form method="post" className="row" style={{ marginTop: 8 }}>
          <input type="hidden" name="intent" value="abandon" />
          <RequestKey value={`${loaded.key}-end`} />
          <input
            className="line-input grow"
            name="why"
            aria-label="Why without proof"
            placeholder="why? for example: no scrap left"
            maxLength={200}
          />
          <Submit>End without proof</Submit>
        </Form>
        {failed?.errors.why ? (
          <p className="hot" role="alert">
            {failed.errors.why}
          </p>
        ) : null}
      </details>
    </div>
  );
}

function Submit({ children }: { children: ReactNode }) {
  return (
    <button type="submit" className="button" style={{ width: "fit-content" }}>
      {children}
    </button>
  );
}
