/** The next step as one card: a mark to make and note, a screw to turn, something to shift, or the end. */
import { useState } from "react";
import { Form, useNavigation } from "react-router";
import type { OpenAim } from "#services/aim/aimView";
import { keptHere, textHere } from "#services/units";
import { Block } from "../ui/Block";
import { Choices, Tick } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { FormProblem, RequestKey, Submit } from "../ui/form/Posted";
import { Fields, type FormState } from "../ui/form/state";
import { More } from "../ui/More";
import { Notice } from "../ui/Notice";
import { Pad, type Place } from "./Pad";

type Step = OpenAim["step"];
type Of<K extends Step["kind"]> = Extract<Step, { kind: K }>;

interface Props<S extends Step = Step> {
  readonly step: S;
  readonly failed: Partial<FormState> | undefined;
  readonly requestKey: string;
  /** Words of the button that ends a good sitting. */
  readonly after: string;
}

export function StepCard({ step, ...rest }: Props) {
  switch (step.kind) {
    case "mark":
      return <MarkCard step={step} {...rest} />;
    case "turn":
      return <TurnCard step={step} {...rest} />;
    case "shift":
      return <ShiftCard step={step} {...rest} />;
    case "seat":
      return <SeatCard step={step} {...rest} />;
    case "vague":
      return <VagueCard />;
    case "good":
      return <GoodCard {...rest} step={step} />;
    default:
      return step satisfies never;
  }
}

function MarkCard({ step, failed, requestKey }: Props<Of<"mark">>) {
  const busy = useNavigation().state !== "idle";
  const typed = failed?.typed?.spot === step.spotId ? failed.typed : undefined;
  const [right, setRight] = useState(typed?.right ?? "");
  const [up, setUp] = useState(typed?.up ?? "");
  const mark: Place = { right: keptHere(right, "mm") ?? 0, up: keptHere(up, "mm") ?? 0 };
  const move = (to: Place) => {
    setRight(textHere(String(to.right), "mm"));
    setUp(textHere(String(to.up), "mm"));
  };
  return (
    <Block strong label="The next mark">
      <p className="soft">Next mark · about 2 minutes · fetch: tape, marker pen</p>
      <div className="aim-card">
        <div className="stack close">
          <Pad
            label={`Mark at ${step.spot}, seen along the beam`}
            apertureMm={step.apertureMm}
            sides={step.sides}
            mark={mark}
            onMove={move}
            expected={step.expected}
            others={step.others}
          />
          <Legend others={step.others} expected={step.expected !== undefined} />
        </div>
        <Form method="post" className="stack" noValidate>
          <RequestKey value={requestKey} />
          <input type="hidden" name="intent" value="mark" />
          <input type="hidden" name="spot" value={step.spotId} />
          <p className="card-lead">
            {step.onMirror
              ? `Fresh tape on the frame of ${step.station}, off the glass. Lid closed, short pulse, then look.`
              : `Fresh tape under ${step.station}. Lid closed, short pulse, then look.`}
          </p>
          <p className="soft">{step.seen} Drag the mark on the ring, or type its middle.</p>
          {step.hint ? <p>The case says: {step.hint}.</p> : null}
          <Fields state={failed}>
            <FormProblem />
            <div className="fields pair">
              <NumberField name="right" label="To the right" unit="mm" value={right} onChange={setRight} />
              <NumberField name="up" label="Up" unit="mm" value={up} onChange={setUp} />
            </div>
            {failed?.errors?.sure ? <Tick name="sure" label="It really is there" /> : null}
          </Fields>
          <Notice kind="caution">Nobody's hands inside, panels on, lid closed for the pulse. Goggles on.</Notice>
          <div>
            <Submit type="primary" size="large" disabled={busy}>
              Save this mark
            </Submit>
          </div>
        </Form>
      </div>
      <Missed step={step} requestKey={requestKey} />
    </Block>
  );
}

/** The pulse left no mark: which side it went by, if anybody saw a glow or a burn there. */
function Missed({ step, requestKey }: { step: Of<"mark">; requestKey: string }) {
  const busy = useNavigation().state !== "idle";
  const { sides } = step;
  return (
    <More label="No mark: it missed">
      <Form method="post" className="stack">
        <RequestKey value={`${requestKey}-miss`} />
        <input type="hidden" name="intent" value="miss" />
        <input type="hidden" name="spot" value={step.spotId} />
        <Fields>
          <Choices
            name="side"
            label="Where it went, if a burn shows it"
            options={[
              { value: "left", label: sides.left },
              { value: "right", label: sides.right },
              { value: "up", label: sides.up },
              { value: "down", label: sides.down },
              { value: "", label: "not seen" },
            ]}
            defaultValue=""
          />
        </Fields>
        <Notice kind="caution">Look for the burn only with the machine unplugged. Never watch a pulse with the lid or a panel open.</Notice>
        <div>
          <Submit disabled={busy}>It missed</Submit>
        </div>
      </Form>
    </More>
  );
}

/** The marks are too coarse to go on by. */
function VagueCard() {
  return (
    <Block strong label="The marks">
      <p className="card-lead">
        More of the same marks would not help. Print the rings (Test files), put them flat on the frame, make the pulse as short as it still
        marks, and begin again with fresh marks; or stop here for today, if that is offered below.
      </p>
    </Block>
  );
}

/** Stopping while it is good enough, with what the rest would take beside. */
export function TodayCard({
  today,
  failed,
  requestKey,
  after,
}: {
  today: { readonly words: string };
  failed: Partial<FormState> | undefined;
  requestKey: string;
  after: string;
}) {
  const busy = useNavigation().state !== "idle";
  return (
    <More label="Good enough for today: stop here">
      <Form method="post" className="stack">
        <RequestKey value={`${requestKey}-today`} />
        <input type="hidden" name="intent" value="finish" />
        <p>{today.words}</p>
        <p>Tape off. Look at the optics behind it with a torch: tape smoke lands on them. Then put the power limit back where it was.</p>
        <Fields state={failed}>
          <Tick name="power-back" label="The power limit is back where it was" />
        </Fields>
        <div>
          <Submit disabled={busy}>{after}</Submit>
        </div>
      </Form>
    </More>
  );
}

/** What else the pad shows. */
function Legend({ others, from, expected }: { others: readonly { readonly words: string }[]; from?: string; expected?: boolean }) {
  return (
    <p className="soft small">
      {[from ? `● ${from}, by now` : "", ...others.map((o) => `□ ${o.words}`), expected ? "dotted: where it is expected" : ""]
        .filter(Boolean)
        .join(" · ")}
    </p>
  );
}

function TurnCard({ step, failed, requestKey }: Props<Of<"turn">>) {
  const busy = useNavigation().state !== "idle";
  const { expected } = step;
  return (
    <Block strong label="The next turn">
      <p className="soft">Facing the screw · {step.place} · fetch: screw key</p>
      <div className="aim-card turn">
        {expected ? (
          <div className="stack close">
            <Pad
              label={`Where the mark at ${expected.spot} should go`}
              apertureMm={expected.apertureMm}
              sides={expected.sides}
              from={expected.from}
              expected={step.isTrial ? undefined : expected.to}
              others={expected.others}
            />
            <Legend others={expected.others} from={expected.spot} />
          </div>
        ) : null}
        <Form method="post" className="stack">
          <RequestKey value={requestKey} />
          <input type="hidden" name="intent" value="turn" />
          <input type="hidden" name="element" value={step.element} />
          <input type="hidden" name="screw" value={step.screw} />
          <input type="hidden" name="amount" value={Math.abs(step.turns)} />
          <input type="hidden" name="sense" value={step.turns < 0 ? "anticlockwise" : "clockwise"} />
          <p className="card-lead">
            {step.isSearch
              ? "This turn looks for the beam: turn it, then make the mark again at the same place."
              : step.isTrial
                ? `${step.wasTried ? "Its last turn did not say clearly which way this screw moves the mark" : "Nobody knows yet which way this screw moves the mark"}: this turn tells. If it runs the other way, that is fine.`
                : `Then the mark at ${expected?.spot ?? "the next mirror"} should sit at ${expected?.words ?? ""} (right and up on the picture).`}
          </p>
          <p className="soft">Hold the others still. Turn it once, then make the next mark.</p>
          <Notice kind="caution">No pulse while anybody holds a screw. Panels back and lid closed before the next mark.</Notice>
          <Fields state={failed}>
            <FormProblem />
          </Fields>
          <div>
            <Submit type="primary" size="large" disabled={busy}>
              Turned: {step.words}
            </Submit>
          </div>
        </Form>
      </div>
    </Block>
  );
}

function ShiftCard({ step, failed, requestKey }: Props<Of<"shift">>) {
  const busy = useNavigation().state !== "idle";
  return (
    <Block strong label="A shift">
      <p className="soft">The marks meet; where they meet is a matter of place.</p>
      <Form method="post" className="stack">
        <RequestKey value={requestKey} />
        <input type="hidden" name="intent" value="shift" />
        <input type="hidden" name="shift" value={step.shift} />
        <p className="card-lead">
          {step.isTube
            ? "Shims under its mounts, the same at both ends, so that it stays parallel."
            : "Loosen, move on its slots or put a shim under it, tighten. The screws of the aim stay as they are."}
        </p>
        <Notice kind="caution">
          {step.isTube
            ? "Tens of kilovolts remain even when unplugged: the tube is moved by a qualified person, unplugged and discharged, never by trial."
            : "Unplug before you loosen a mount. Panels back and lid closed before the next mark."}
        </Notice>
        <Fields state={failed}>
          <FormProblem />
        </Fields>
        <div>
          <Submit type="primary" size="large" disabled={busy}>
            Shifted
          </Submit>
        </div>
      </Form>
    </Block>
  );
}

function SeatCard({ step }: Props<Of<"seat">>) {
  return (
    <Block strong label="To seat again">
      <p className="card-lead">
        {step.isTube
          ? "The beam leaves the tube at an angle. Its mounts are for a qualified person: tens of kilovolts, and they stay. Leave aiming here and give them this figure."
          : step.isClosed
            ? `${step.name} is behind a panel that is not for owners. Leave aiming here and give the maker's service this figure.`
            : `${step.name} has no screws here: it keeps its aim in its seat. Leave aiming, take it out and seat it again, then come back. If it has screws after all, say so at its station in the Workshop.`}
      </p>
    </Block>
  );
}

function GoodCard({ failed, requestKey, after }: Props<Of<"good">>) {
  const busy = useNavigation().state !== "idle";
  return (
    <Block strong label="The end">
      <Form method="post" className="stack">
        <RequestKey value={requestKey} />
        <input type="hidden" name="intent" value="finish" />
        <p className="card-lead">
          Tape off. Look at the optics behind it with a torch: tape smoke lands on them. Then put the power limit back where it was.
        </p>
        <Fields state={failed}>
          <FormProblem />
          <Tick name="power-back" label="The power limit is back where it was" />
        </Fields>
        <div>
          <Submit type="primary" size="large" disabled={busy}>
            {after}
          </Submit>
        </div>
      </Form>
    </Block>
  );
}
