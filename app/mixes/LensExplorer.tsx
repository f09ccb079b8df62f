/**
 * Which way round, and what it does: rays through the lens near the focus, the sheet to drag up and down, the spot it gets. All from the
 * core's ray trace, live.
 */
import { Descriptions, Slider } from "antd";
import { useId, useState } from "react";
import { lensPicture } from "#core/beam";
import { textHere, unitHere, withUnit } from "#services/units";
import { Block } from "../ui/Block";
import { Drawing } from "../ui/Drawing";
import { ChoiceButtons } from "../ui/form/Choices";
import { Notice } from "../ui/Notice";
import { Fan, SPAN_MM, Spot } from "./Fan";
import { lensVerdict, signed, um } from "./lensWords";

export interface LensStart {
  readonly focalMm: number;
  readonly thicknessMm: number;
  readonly beamMm: number;
  readonly apertureMm: number;
  readonly movingHead: boolean;
  readonly wayRound: string | undefined;
}

export function LensExplorer({ lens }: { lens: LensStart }) {
  const [flipped, setFlipped] = useState(false);
  const [offMm, setOff] = useState(0);
  const [beamMm, setBeam] = useState(lens.beamMm);
  const [focalMm, setFocal] = useState(lens.focalMm);
  const setup = { focalMm, thicknessMm: lens.thicknessMm, beamDiameterMm: beamMm, flipped };
  const picture = lensPicture(setup, lens.apertureMm, offMm, SPAN_MM);
  const { headline, lead } = lensVerdict(picture, flipped);
  return (
    <div className="stack loose">
      <section aria-live="polite">
        <h1 className="verdict">{headline}</h1>
        <p className="lead">{lead}</p>
      </section>
      <div className="explorer">
        <div className="stack">
          <ChoiceButtons
            name="side"
            label="Which face is up"
            options={[
              { value: "up", label: "Bulge up" },
              { value: "down", label: "Bulge down" },
            ]}
            defaultValue="up"
            onChange={(side) => setFlipped(side === "down")}
          />
          <Fan picture={picture} offMm={offMm} onDrag={setOff} />
        </div>
        <div className="stack">
          <Spot spotMm={picture.spotMm} bestMm={picture.bestMm} />
          <Dial
            label="Sheet below the gauge's height"
            unit="mm"
            min={-SPAN_MM}
            max={SPAN_MM}
            step={0.1}
            value={offMm}
            onChange={setOff}
            shown={signed(offMm)}
          />
          <Dial label="Beam at the lens" unit="mm" min={3} max={14} step={0.5} value={beamMm} onChange={setBeam} />
          <Dial label="Focal length" unit="mm" min={38.1} max={101.6} step={12.7} value={focalMm} onChange={setFocal} />
          <Descriptions
            column={1}
            size="small"
            items={[
              { key: "d", label: "Diffraction alone", children: um(picture.diffractionMm) },
              { key: "up", label: "Blur of the rays, bulge up", children: um(picture.blurUpMm) },
              { key: "down", label: "bulge down", children: um(picture.blurDownMm) },
              { key: "sharp", label: "Sharp within", children: `±${withUnit(picture.sharpWithinMm, "mm", 2)}` },
              { key: "shift", label: "Focus moves when flipped", children: `${withUnit(picture.flipShiftMm, "mm", 2)} down` },
            ]}
          />
        </div>
      </div>
      <WhichFace lens={lens} />
    </div>
  );
}

function WhichFace({ lens }: { lens: LensStart }) {
  return (
    <Block>
      <h2 className="card-title">Which face is which?</h2>
      <div className="picture">
        <Drawing id={lens.movingHead ? "lens-arrow" : "lens-sides"} />
        <ul className="stack plain-list">
          {lens.wayRound ? (
            <li>
              <b>Yours:</b> {lens.wayRound}.
            </li>
          ) : null}
          <li>
            <b>One flat face</b> (plano-convex): the bulging face looks up, towards the mirror; the flat one down.
          </li>
          <li>
            <b>Bulging and hollow</b> (meniscus): the bulging face up, the hollow one down.
          </li>
          <li>
            <b>Loaded from below,</b> with an arrow or a dish-shaped side: follow the arrow or the maker.
          </li>
          <li>
            <b>Tell them apart</b> by what they mirror. Hold a line of print to the lower face: straight, it is flat; bent, it is hollow.
            The bulging face shows your own face whole and small, the flat one large and in part.
          </li>
        </ul>
      </div>
      <Notice kind="caution">Gloves, edges only: zinc selenide is toxic if chipped or swallowed.</Notice>
    </Block>
  );
}

function Dial({
  label,
  unit,
  min,
  max,
  step,
  value,
  onChange,
  shown,
}: {
  label: string;
  unit: string;
  min: number;
  max: number;
  step: number;
  value: number;
  onChange: (value: number) => void;
  shown?: string;
}) {
  const id = useId();
  return (
    <div>
      <span className="between">
        <span id={id}>{label}</span>
        <b>
          {shown ?? textHere(String(value), unit)} {unitHere(unit)}
        </b>
      </span>
      <Slider min={min} max={max} step={step} value={value} onChange={onChange} tooltip={{ open: false }} ariaLabelledByForHandle={id} />
    </div>
  );
}
