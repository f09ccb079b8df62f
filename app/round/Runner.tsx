/** The round at the machine: one step at a time in big type. Every answer is kept as it is given, network or not. */
import { Button, Checkbox, Input, Radio } from "antd";
import { type ReactNode, Suspense, useEffect, useRef, useState } from "react";
import { Form, Link } from "react-router";
import { fetchList, isAnswered, isOptic, MOST_AIR_MPS, type Seen as Option } from "#core/rounds";
import { keptHere, textHere, unitHere, withUnit } from "#services/units";
import { wholeMinutes } from "#services/words";
import { Block } from "../ui/Block";
import { fetched } from "../ui/fetched";
import { RequestKey, Submit } from "../ui/form/Posted";
import { Fields, type FormState } from "../ui/form/state";
import { TextField } from "../ui/form/TextField";
import { GradePicker } from "../ui/GradePicker";
import { LinkButton } from "../ui/LinkButton";
import { Manual } from "../ui/Manual";
import { Notice } from "../ui/Notice";
import { Worded } from "../ui/Worded";
import type { Route } from "./+types/run";
import { Ask } from "./Ask";
import { Fetch } from "./Fetch";
import { Foot } from "./Foot";
import { StepPhotos } from "./StepPhotos";
import { StepPicture } from "./StepPicture";
import { clock, Timers } from "./Timers";
import { useKeys } from "./useKeys";
import { type Running, useRunner } from "./useRunner";
import { Way } from "./Way";

const FETCH_PROOF_MS = 1500;
/** Only the last step needs it; it is fetched while there is time, so that it is there when the network is not. */
const fetchProof = () => import("./Proof");
const Proof = fetched(() => fetchProof().then((m) => m.Proof));

type Loaded = Route.ComponentProps["loaderData"];

export function Runner({ data, failed }: { data: Loaded; failed: FormState | undefined }) {
  const running = useRunner(data);
  useKeys(running, data.status === "open");
  useEffect(() => {
    const soon = window.setTimeout(() => void fetchProof(), FETCH_PROOF_MS);
    return () => window.clearTimeout(soon);
  }, []);
  return (
    <div className="place">
      <Way
        steps={running.walk}
        at={running.at}
        limit={running.limit}
        isDone={(id) => isAnswered(running.answers[id])}
        onGo={running.move}
      />
      <main className="run">
        <div className="run-body">
          <Head running={running} data={data} />
          <StepBody running={running} data={data} failed={failed} />
          <Asked running={running} />
        </div>
        <Foot running={running} data={data} />
        <p className="run-more">
          <Link to={`/${data.slug}/round/sheet?round=${data.id}`}>Print this round</Link>
          {data.caseId ? <Link to={`/${data.slug}/trace/${data.caseId}`}>The case it is for</Link> : null}
        </p>
      </main>
    </div>
  );
}

function Head({ running: r, data }: { running: Running; data: Loaded }) {
  return (
    <>
      <div className="run-head">
        <p className="soft">
          {data.title} · step {r.at + 1} of {r.walk.length}{" "}
          {r.noFire === undefined ? `· about ${wholeMinutes(r.minutesLeft)} min left` : ""}
        </p>
        <div className="who">
          <Input
            value={r.by}
            prefix={<span className="soft">Who?</span>}
            maxLength={8}
            autoComplete="off"
            aria-label="Your initials, kept with each step"
            onChange={(e) => r.setBy(e.target.value)}
          />
        </div>
      </div>
      <Timers
        steps={data.steps}
        answers={r.answers}
        now={r.now}
        here={r.step.id}
        onGo={(id) => r.move(r.walk.findIndex((s) => s.id === id))}
      />
    </>
  );
}

/** What a step says, asks and shows. */
function StepBody({ running: r, data, failed }: { running: Running; data: Loaded; failed: FormState | undefined }) {
  const { step, known } = r;
  const told = useRef<HTMLDivElement>(null);
  const answer = `${r.notSeen} ${r.said?.leads ?? ""} ${r.advice?.text ?? ""}`;
  const shown = useRef({ step: step.id, answer });
  // What an answer leads to is in sight as soon as it is given: on a phone it would lie under the foot.
  useEffect(() => {
    if (shown.current.step === step.id && shown.current.answer !== answer && told.current?.firstElementChild)
      told.current.scrollIntoView({ block: "nearest" });
    shown.current = { step: step.id, answer };
  }, [step.id, answer]);
  return (
    <>
      <h1 className="step-title" ref={r.heading} tabIndex={-1}>
        {r.noFire === undefined ? step.title : r.staysApart ? `This round ends here: ${r.noFire}.` : `Do not fire: ${r.noFire}.`}
      </h1>
      <p className="big">
        {r.noFire === undefined ? (
          <>
            <Worded>{step.text}</Worded>
            {data.figures[step.id] ? <b> {data.figures[step.id]}</b> : null}
          </>
        ) : r.staysApart ? (
          "Leave the machine unplugged. Lay a clean tissue over what is open, keep the parts and screws together in one box, and put a note on the lid: do not fire. What you saw and did is saved. When the new part is here, start the round that fits it from Today."
        ) : (
          "What you saw and did is saved. End the round without a final test; Today says what comes next."
        )}
      </p>
      {step.caution && r.noFire === undefined ? <Notice kind="caution">{step.caution}</Notice> : null}
      {data.manual && r.noFire === undefined && /manual/i.test(`${step.text} ${step.caution ?? ""}`) ? (
        <p>
          <Manual at={data.manual} />
        </p>
      ) : null}
      {step.tick ? (
        <div ref={r.tick.frame}>
          <Checkbox className="tick" checked={r.tick.ticked ?? known?.done === true} onChange={(e) => r.tick.set(e.target.checked)}>
            {step.tick}
          </Checkbox>
        </div>
      ) : null}
      {step.id === "fetch" ? <Fetch list={fetchList(data.steps, data.fetch.keys, (s) => r.walk.includes(s))} /> : null}
      {step.kind === "grade" ? (
        <GradePicker
          label={step.phase === "as-found" ? "Before cleaning" : "After cleaning"}
          value={r.notSeen ? undefined : r.grade}
          onPick={r.pick}
          optic={step.station === undefined || isOptic(step.station)}
        />
      ) : null}
      {step.seen ? <Seen label={step.title} options={step.seen} value={known?.choice} onPick={r.choose} /> : null}
      {step.kind === "grade" && (step.unseen || (step.anyway && r.grade === 0 && !r.notSeen)) ? (
        <div className="row">
          {step.unseen ? (
            <Button size="large" type={r.notSeen ? "primary" : "default"} aria-pressed={r.notSeen} onClick={r.sayNotSeen}>
              {step.unseen}
            </Button>
          ) : null}
          {step.anyway && r.grade === 0 && !r.notSeen ? (
            <Button
              size="large"
              type={r.anyway ? "primary" : "default"}
              aria-pressed={r.anyway}
              onClick={r.anyway ? () => r.pick(0) : r.cleanAnyway}
            >
              {step.anyway}
            </Button>
          ) : null}
        </div>
      ) : null}
      <div ref={told} className="stack told">
        {r.notSeen ? (
          <Notice kind="caution">
            Not seen is not clear: the part stays due, and nothing is known of it until you inspect it or take it out.
          </Notice>
        ) : null}
        {r.said?.leads ? (
          <Notice kind="caution" role="alert">
            {r.said.leads}
          </Notice>
        ) : null}
        {r.advice ? (
          <Notice kind="caution" role="alert">
            {r.advice.text}
          </Notice>
        ) : null}
      </div>
      {step.reading === "air" ? <AirReading key={step.id} known={known?.airMps} onRead={r.readAir} /> : null}
      {step.byAim ? (
        <div>
          <LinkButton to={`/${data.slug}/aim`}>Alignment works the turns out</LinkButton>
        </div>
      ) : null}
      <StepPicture step={step} />
      {r.drying ? (
        <div className="drying">
          <p>
            <b className="countdown">{clock(r.left ?? 0)}</b> until what was wetted is dry. Lid open, no ignition source near.
          </p>
        </div>
      ) : null}
      {r.missing.length > 0 ? (
        <Notice kind="problem">
          Before the final test, tick these:
          {r.missing.map((s) => (
            <Button key={s.id} onClick={() => r.move(r.walk.indexOf(s))}>
              {s.title}
            </Button>
          ))}
        </Notice>
      ) : null}
      {step.kind === "proof" ? (
        <Suspense>
          <Proof data={data} failed={failed} stopped={r.noFire} apart={r.staysApart} />
        </Suspense>
      ) : null}
    </>
  );
}

/** The air's speed, kept as soon as it can be read; the step may be left without. */
function AirReading({ known, onRead }: { known: number | undefined; onRead: (mps: number) => void }) {
  const [text, setText] = useState(known === undefined ? "" : textHere(String(known), "m/s"));
  const value = keptHere(text, "m/s");
  const isWrong = text.trim() !== "" && (value === undefined || value <= 0 || value > MOST_AIR_MPS);
  const keep = () => {
    if (value !== undefined && !isWrong && value !== known) onRead(value);
  };
  return (
    <div className="air-reading">
      <Input
        size="large"
        value={text}
        inputMode="decimal"
        autoComplete="off"
        aria-label="Air speed in the duct"
        prefix={<span className="soft">Air speed</span>}
        suffix={<span className="soft">{unitHere("m/s")}</span>}
        onChange={(e) => setText(e.target.value)}
        onBlur={keep}
        onPressEnter={keep}
        {...(isWrong ? { status: "error" as const, "aria-invalid": true } : {})}
      />
      {isWrong ? (
        <span className="error" role="alert">
          Between 0 and {withUnit(MOST_AIR_MPS, "m/s", 0)}, in {unitHere("m/s")}.
        </span>
      ) : known === undefined ? (
        <span className="soft small">No meter today? Leave it empty.</span>
      ) : (
        <span className="soft small">{withUnit(known, "m/s")} goes into the log.</span>
      )}
    </div>
  );
}

/** Whoever will not make the machine safe ends the round instead. */
function EndHere({ roundKey }: { roundKey: string }) {
  return (
    <Block>
      <Form method="post" className="row top">
        <input type="hidden" name="intent" value="abandon" />
        <RequestKey value={roundKey} />
        <div className="grow">
          <TextField name="why" label="Why it ends here" placeholder="for example: started by mistake" maxLength={200} />
        </div>
        <Submit className="beside-field">End the round</Submit>
      </Form>
    </Block>
  );
}

/** What was seen, to choose from. */
function Seen({
  label,
  options,
  value,
  onPick,
}: {
  label: string;
  options: readonly Option[];
  value: string | undefined;
  onPick: (id: string) => void;
}) {
  return (
    <Radio.Group
      className="choices"
      optionType="button"
      size="large"
      aria-label={label}
      value={value ?? null}
      onChange={(e) => onPick(String(e.target.value))}
      options={options.map((o) => ({ value: o.id, label: o.label }))}
    />
  );
}

/** What was told of a step, and what is being asked for. */
function Asked({ running: r }: { running: Running }) {
  const { step, known, photos } = r;
  return (
    <>
      <StepPhotos kept={known?.photos ?? []} waiting={photos.waiting.filter((w) => w.stepId === step.id)} problem={photos.problem} />
      {r.problem ? <Notice kind="problem">{r.problem}</Notice> : null}
      {r.notice ? (
        <Notice kind="caution" role="status">
          {r.notice}
        </Notice>
      ) : null}
      {r.asking ? (
        <Opened key={r.asking}>
          {r.asking === "skip" ? (
            <Ask label="Why skip this step?" placeholder="why? for example: lens is new" button="Skip this step" onGive={r.skip} />
          ) : r.asking === "note" ? (
            <Ask
              label="Note to this step"
              placeholder="a note to this step"
              button="Keep the note"
              initial={known?.note ?? ""}
              onGive={r.note}
            />
          ) : (
            <Fields>
              <EndHere roundKey={r.endKey} />
            </Fields>
          )}
        </Opened>
      ) : known?.note ? (
        <p className="soft">Note: {known.note}</p>
      ) : null}
      {known?.skipped ? <p className="soft">Skipped: {known.skipped}</p> : null}
    </>
  );
}

/** What was just opened is in view, above the foot, with the cursor in it. */
function Opened({ children }: { children: ReactNode }) {
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    frame.current?.scrollIntoView({ block: "center" });
    frame.current?.querySelector<HTMLInputElement>("input:not([type=hidden])")?.focus({ preventScroll: true });
  }, []);
  return <div ref={frame}>{children}</div>;
}
