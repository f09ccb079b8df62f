/** A run of the power probe: live from the bench, or a curve that is pasted; the fit and its error are shown before it is kept. */
import "./coupon.css";
import { Button, Input, Progress } from "antd";
import { useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import { fitProbe, type ProbeSample, readCurve } from "#core/probe";
import { keptHere, textHere, unitHere, withUnit } from "#services/units";
import { FigureCurve } from "./FigureCurve";
import { Tick } from "./form/Choices";
import { Field } from "./form/Field";
import { NumberField } from "./form/NumberField";
import { SelectField } from "./form/SelectField";
import { useFormState } from "./form/state";
import { Notice } from "./Notice";

const TAIL_S = 60;
const figure = (text: string, usual: number) =>
  Number.isFinite(Number(text.replace(",", "."))) && text.trim() !== "" ? Number(text.replace(",", ".")) : usual;

export function ProbeForm({
  stations,
  hasBench,
}: {
  stations: readonly { readonly value: string; readonly label: string }[];
  hasBench: boolean;
}) {
  const { typed } = useFormState();
  const { machine } = useParams();
  const [text, setText] = useState(typed.samples ?? "");
  const [station, setStation] = useState(typed.station ?? stations.at(-1)?.value ?? "");
  const [setPercent, setSet] = useState(typed.setPercent ?? "100");
  const [massG, setMass] = useState(typed.massG ?? "100");
  const [heatS, setHeat] = useState(typed.heatS ?? "30");
  const [ambientC, setAmbient] = useState(typed.ambientC ?? textHere("22", "°C"));
  const [tau, setTau] = useState(typed.timeConstantS ?? "");
  const [running, setRunning] = useState<AbortController>();
  const [trouble, setTrouble] = useState<string>();
  const { samples } = readCurve(text);
  const run = {
    samples,
    heatS: figure(heatS, 30),
    ambientC: keptHere(ambientC, "°C") ?? 22,
    massG: figure(massG, 100),
    ...(tau.trim() === "" ? {} : { timeConstantS: figure(tau, 240) }),
  };
  const read = samples.length > 2 && !running ? fitProbe(run) : undefined;
  const live = useRef<AbortController>(undefined);
  useEffect(() => () => live.current?.abort(), []);

  const start = async () => {
    const control = new AbortController();
    live.current = control;
    setRunning(control);
    setTrouble(undefined);
    setText("");
    try {
      const query = new URLSearchParams({ station, setPercent, heatS, ambientC: String(keptHere(ambientC, "°C") ?? 22), massG });
      const answer = await fetch(`/${machine}/bench/probe?${query}`, { signal: control.signal });
      if (!answer.ok || !answer.body) throw new Error("no answer");
      const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
      let lines = "";
      for (let part = await reader.read(); !part.done; part = await reader.read()) {
        lines += part.value;
        setText(
          lines
            .split("\n")
            .filter(Boolean)
            .map((l) => {
              try {
                const { s, c } = JSON.parse(l) as ProbeSample;
                return `${s} ${c}`;
              } catch {
                return "";
              }
            })
            .filter(Boolean)
            .join("\n"),
        );
      }
    } catch {
      if (!control.signal.aborted) setTrouble("The bench stopped answering. Run it again, or paste the curve.");
    }
    setRunning(undefined);
  };
  const now = samples.at(-1)?.s ?? 0;
  return (
    <>
      <Notice kind="caution">
        Only where the probe fits with every panel and interlock in place and the lid closed; otherwise leave this to a qualified person.
        The slug is hot afterwards. The maker's manual comes first.
      </Notice>
      <SelectField name="station" label="The probe is after" options={stations} defaultValue={station} onChange={setStation} />
      <div className="fields">
        <NumberField name="setPercent" label="At power" unit="%" defaultValue={setPercent} onChange={setSet} />
        <NumberField name="heatS" label="Beam on for" unit="s" defaultValue={heatS} onChange={setHeat} />
        <NumberField name="ambientC" label="The room" unit="°C" value={ambientC} onChange={setAmbient} />
        <NumberField name="massG" label="The slug, aluminium" unit="g" defaultValue={massG} onChange={setMass} />
        <NumberField
          name="timeConstantS"
          label="Its time constant"
          unit="s"
          hint="where no cooling is recorded"
          defaultValue={tau}
          onChange={setTau}
        />
      </div>
      {hasBench ? (
        <div className="row" role="status">
          {running ? (
            <>
              <Progress percent={Math.round((100 * now) / (figure(heatS, 30) + TAIL_S))} aria-label="Run" className="run-share" />
              <span>
                {now < figure(heatS, 30) ? "Heating" : "Cooling"}, {Math.round(now)} s,{" "}
                {withUnit(samples.at(-1)?.c ?? keptHere(ambientC, "°C") ?? 22, "°C")}
              </span>
              <Button onClick={() => running.abort()}>Cancel the run</Button>
            </>
          ) : (
            <>
              <Button onClick={() => void start()}>Run the practice probe</Button>
              <span className="soft small">Simulated, and faster than life.</span>
            </>
          )}
        </div>
      ) : null}
      {trouble ? <Notice kind="problem">{trouble}</Notice> : null}
      {samples.length > 2 ? <FigureCurve quiet lines={curvesOf(samples, read?.kind === "power" ? read.fitted : [])} /> : null}
      {read?.kind === "power" ? (
        <p aria-live="polite">
          <b>
            {read.powerW.toFixed(1)} W, give or take {read.seW.toFixed(1)}.
          </b>{" "}
          <span className="soft">
            Without the heat it lost meanwhile it would read {read.naiveW.toFixed(1)} W. Time constant {Math.round(read.timeConstantS)} s; 3
            % is for how black the slug is.
          </span>
        </p>
      ) : read ? (
        <Notice kind="doubt">This run cannot be read: {read.reason}.</Notice>
      ) : null}
      <Field name="samples" label="The curve: seconds and °C, a line each" hint="run the probe, or paste it from a logger's file">
        {({ id, aria }) => (
          <Input.TextArea
            id={id}
            name="samples"
            rows={5}
            value={text}
            onChange={(e) => setText(e.target.value)}
            readOnly={running !== undefined}
            {...aria}
          />
        )}
      </Field>
      <Tick name="baseline" label="Known good: later readings are set against it" defaultChecked={typed.baseline === "1"} />
    </>
  );
}

const curve = (name: string, samples: readonly ProbeSample[]) => ({
  name,
  unit: unitHere("°C"),
  points: samples.map((x) => ({ atMs: x.s, day: `${x.s} s`, value: Number(textHere(String(x.c), "°C")), said: withUnit(x.c, "°C") })),
});
const curvesOf = (samples: readonly ProbeSample[], fitted: readonly ProbeSample[]) => [
  curve("measured", samples),
  ...(fitted.length > 1 ? [curve("fitted", fitted)] : []),
];
