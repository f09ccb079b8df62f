/** The end of a round: a ladder as its proof, a test piece, the failed test repeated, or a reason why there is none today. */
import { Form } from "react-router";
import { CUT_CHOICES } from "#services/log/words";
import { Block } from "../ui/Block";
import { Choices, Tick } from "../ui/form/Choices";
import { FormProblem, RequestKey, Submit } from "../ui/form/Posted";
import { SelectField } from "../ui/form/SelectField";
import { Fields, type FormState, useField } from "../ui/form/state";
import { TextField } from "../ui/form/TextField";
import { LadderEntry } from "../ui/LadderEntry";
import { More } from "../ui/More";
import { Notice } from "../ui/Notice";
import { Term } from "../ui/Term";
import type { Route } from "./+types/run";
import { PROOF_FORM } from "./proofForm";

type Loaded = Route.ComponentProps["loaderData"];

interface ProofProps {
  readonly data: Loaded;
  readonly failed: FormState | undefined;
  /** Why nothing may be fired, so that there is no final test to be had. */
  readonly stopped: string | undefined;
  /** The machine stays apart and unplugged. */
  readonly apart: boolean;
}

export function Proof({ data, failed, stopped, apart }: ProofProps) {
  // A round that only looked is proven by a test piece; a ladder says more and stays at hand.
  const pieceFirst = data.steps.at(-1)?.id === "piece" && data.pieces.length > 0;
  const ladder = <LadderProof data={data} first={!pieceFirst} />;
  const piece = <PieceProof data={data} first={pieceFirst} />;
  if (stopped !== undefined)
    return (
      <Fields state={failed}>
        <FormProblem />
        <EndStopped data={data} stopped={stopped} apart={apart} />
      </Fields>
    );
  return (
    <Fields state={failed}>
      <div className="stack loose">
        <FormProblem />
        {pieceFirst ? piece : ladder}
        {data.repeat ? <RepeatProof data={data} repeat={data.repeat} /> : null}
        {pieceFirst ? (
          <More label="A ladder instead">{ladder}</More>
        ) : data.pieces.length > 0 ? (
          <More label="Only a test piece: a small circle and a square" open={failed?.errors.piece !== undefined}>
            {piece}
          </More>
        ) : null}
        <More label="No final test today" open={failed?.errors.why !== undefined}>
          <WithoutProof data={data} />
        </More>
      </div>
    </Fields>
  );
}

/** The end of a round after which nothing is fired: the reason is known, what protects people is ticked. */
function EndStopped({ data, stopped, apart }: { data: Loaded; stopped: string; apart: boolean }) {
  return (
    <Form method="post" className="stack">
      <input type="hidden" name="intent" value={apart ? "apart" : "abandon"} />
      <input type="hidden" name="why" value={stopped} />
      <RequestKey value={`${data.key}-end`} />
      {apart ? <Tick name="leftSafe" label="Unplugged, with a note on the lid: do not fire" /> : null}
      <div>
        <Submit>{apart ? "End the round, the machine stays apart" : "End the round without a final test"}</Submit>
      </div>
    </Form>
  );
}

function WithoutProof({ data }: { data: Loaded }) {
  return (
    <Form method="post" className="row top">
      <input type="hidden" name="intent" value="abandon" />
      <RequestKey value={`${data.key}-end`} />
      <div className="grow">
        <TextField name="why" label="Why without a final test" placeholder="for example: no scrap left" maxLength={200} />
      </div>
      <Submit className="beside-field">End without a final test</Submit>
    </Form>
  );
}

function LadderProof({ data, first }: { data: Loaded; first: boolean }) {
  return (
    <Block strong>
      <Form method="post" id={first ? PROOF_FORM : undefined} className="stack" noValidate>
        <RequestKey value={data.key} />
        <input type="hidden" name="intent" value="ladder" />
        <p className="soft">
          What is a <Term id="ladder" />?
        </p>
        <LadderEntry materials={data.materials} first={data.firstLadder} />
        {data.asksBaseline ? <Tick name="baseline" label="It cuts as it should: make this the new baseline" /> : null}
        {first ? null : <Submit>Close with this ladder</Submit>}
      </Form>
    </Block>
  );
}

function PieceProof({ data, first }: { data: Loaded; first: boolean }) {
  const { error } = useField("piece");
  return (
    <Block strong>
      <Form method="post" id={first ? PROOF_FORM : undefined} className="stack">
        <RequestKey value={`${data.key}-piece`} />
        <input type="hidden" name="intent" value="piece" />
        {first ? null : (
          <p className="soft">At your usual setting. One minute, and weaker than a ladder: it says through or not, not how strong.</p>
        )}
        <SelectField name="pieceMaterialId" label="In" options={data.pieces.map((m) => ({ value: String(m.id), label: m.label }))} />
        <Choices name="pieceResult" label="It went" options={CUT_CHOICES} />
        {error ? <Notice kind="problem">{error}</Notice> : null}
        {first ? null : <Submit>Close with this piece</Submit>}
      </Form>
    </Block>
  );
}

function RepeatProof({ data, repeat }: { data: Loaded; repeat: NonNullable<Loaded["repeat"]> }) {
  return (
    <Block>
      <Form method="post" className="stack">
        <RequestKey value={`${data.key}-repeat`} />
        <input type="hidden" name="intent" value="repeat" />
        <input type="hidden" name="check" value={repeat.check} />
        <p>
          <b>Or repeat the test that failed.</b> {repeat.question} A ladder is the stronger proof.
        </p>
        <div className="row">
          {repeat.outcomes.map((o) => (
            <Submit key={o.id} name="outcome" value={o.id}>
              {o.label}
            </Submit>
          ))}
        </div>
      </Form>
    </Block>
  );
}
