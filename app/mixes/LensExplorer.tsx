/**
 * Which way round, and what it does: rays through the lens near the focus, the sheet to drag up and down, the spot it gets. All from the
 * core's ray trace, live.
 */
import { Slider } from "antd";
import { useId, useRef, useState } from "react";
import { flipShiftMm, focusOf, type LensSetup, sheetPlaneMm, spotOnSheet, traceRay } from "#core/beam";
import { Drawing } from "../ui/Drawing";

export interface LensStart {
  readonly focalMm: number;
  readonly thicknessMm: number;
  readonly beamMm: number;
  readonly apertureMm: number;
  readonly movingHead: boolean;
  readonly wayRound: string | undefined;
}

/** The window drawn around the usual focus, mm along the beam and across it. */
const SPAN_MM = 4;
const WIDE_MM = 0.42;
const W = 460;
const H = 380;
const FAN = [-1, -0.8, -0.6, -0.4, -0.2, 0, 0.2, 0.4, 0.6, 0.8, 1];

const um = (mm: number) => `${Math.round(1000 * mm)} µm`;
const signed = (mm: number) => `${mm > 0 ? "+" : mm < 0 ? "−" : ""}${Math.abs(mm).toFixed(1)}`;

export function LensExplorer({ lens }: { lens: LensStart }) {
  const [flipped, setFlipped] = useState(false);
  const [offMm, setOff] = useState(0);
  const [beamMm, setBeam] = useState(lens.beamMm);
  const [focalMm, setFocal] = useState(lens.focalMm);
  const svg = useRef<SVGSVGElement>(null);
  const rim = Math.min(lens.apertureMm / 2, 0.95 * focalMm);
  const setup: LensSetup = { focalMm, thicknessMm: lens.thicknessMm, beamDiameterMm: beamMm, flipped };
  const right = focusOf({ ...setup, flipped: false });
  const shift = flipShiftMm(setup, rim);
  const { spotMm, densityShare } = spotOnSheet(setup, offMm, rim);
  const off = flipped ? offMm - shift : offMm;
  const sharp = Math.abs(off) <= right.rayleighMm;
  const percent = Math.round(100 * densityShare);
  const y = (mm: number) => H / 2 + (mm / SPAN_MM) * (H / 2);
  const x = (mm: number) => W / 2 + (mm / WIDE_MM) * (W / 2);
  const usual = sheetPlaneMm(setup, 0, rim);
  const rays = FAN.flatMap((share) => {
    const ray = traceRay(setup, (share * beamMm) / 2);
    if (!ray) return [];
    const at = (mm: number) => ray.heightMm + ray.slope * (mm + usual - ray.zMm);
    return [{ share, from: at(-SPAN_MM), to: at(SPAN_MM) }];
  });
  const drag = (clientY: number) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return;
    const mm = (((clientY - box.top) / box.height) * 2 - 1) * SPAN_MM;
    setOff(Math.round(10 * Math.min(SPAN_MM, Math.max(-SPAN_MM, mm))) / 10);
  };
  return (
    <div className="stack loose">
      <section aria-live="polite">
        <h1 className="verdict">
          {flipped
            ? `Upside down: ${percent} % of the power density${Math.abs(off) > right.rayleighMm ? ", out of focus" : ""}.`
            : sharp
              ? `Bulge up and in focus: a spot of ${um(spotMm)}.`
              : `Bulge up, but out of focus: ${percent} % of the power density.`}
        </h1>
        <p className="lead">
          {flipped
            ? `The focus lies ${shift.toFixed(1)} mm lower than the gauge says, and the rays cross ${(focusOf(setup).blurMm / right.blurMm).toFixed(1)} times less sharply. The height is the larger harm.`
            : `It stays sharp within ±${right.rayleighMm.toFixed(1)} mm of the gauge's height. A wider beam makes a smaller spot and a shallower focus.`}
        </p>
      </section>
      <div className="explorer">
        <div className="stack">
          <div className="row">
            <button type="button" className="button" aria-pressed={!flipped} onClick={() => setFlipped(false)}>
              Bulge up
            </button>
            <button type="button" className="button" aria-pressed={flipped} onClick={() => setFlipped(true)}>
              Bulge down
            </button>
          </div>
          {/* The slider beside it does the same from the keyboard. */}
          <svg
            ref={svg}
            className="fan"
            viewBox={`0 0 ${W} ${H}`}
            role="img"
            aria-label={`Rays near the focus; the sheet ${signed(offMm)} mm from the usual height, spot ${um(spotMm)}`}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              drag(e.clientY);
            }}
            onPointerMove={(e) => {
              if (e.buttons > 0) drag(e.clientY);
            }}
          >
            {rays.map((r) => (
              <path
                key={r.share}
                d={`M${x(r.from)} 0 L${x(r.to)} ${H}`}
                stroke="var(--hot)"
                strokeWidth="1.6"
                strokeOpacity={Math.exp(-2 * r.share * r.share * 0.6)}
              />
            ))}
            <path d={`M0 ${H / 2} H${W}`} stroke="var(--soft)" strokeDasharray="5 5" />
            <text x="8" y={H / 2 - 7} fontSize="13" fill="var(--soft)">
              where the gauge puts it
            </text>
            <g transform={`translate(0 ${y(offMm)})`}>
              <rect x="0" y="0" width={W} height="10" fill="var(--ink)" />
              <rect x={x(-spotMm / 2)} y="0" width={Math.max(2, x(spotMm / 2) - x(-spotMm / 2))} height="4" fill="var(--hot)" />
              <path
                d={`M${W - 34} -4 v-14 m-6 7 l6 -7 l6 7 M${W - 34} 14 v14 m-6 -7 l6 7 l6 -7`}
                fill="none"
                stroke="var(--ink)"
                strokeWidth="2"
              />
            </g>
            <text x={W - 8} y={y(offMm) + (offMm > SPAN_MM - 1 ? -8 : 26)} textAnchor="end" fontSize="13" fill="var(--ink)" dx="-44">
              sheet {signed(offMm)} mm
            </text>
          </svg>
        </div>
        <div className="stack">
          <Spot spotMm={spotMm} bestMm={right.spotMm} />
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
          <table className="plain small">
            <tbody>
              <tr>
                <th scope="row">Diffraction alone</th>
                <td>{um(right.d0Mm)}</td>
              </tr>
              <tr>
                <th scope="row">Blur of the rays, bulge up</th>
                <td>{um(right.blurMm)}</td>
              </tr>
              <tr>
                <th scope="row">bulge down</th>
                <td>{um(focusOf({ ...setup, flipped: true }).blurMm)}</td>
              </tr>
              <tr>
                <th scope="row">Sharp within</th>
                <td>±{right.rayleighMm.toFixed(2)} mm</td>
              </tr>
              <tr>
                <th scope="row">Focus moves when flipped</th>
                <td>{shift.toFixed(2)} mm down</td>
              </tr>
            </tbody>
          </table>
        </div>
      </div>
      <section className="card stack">
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
        <p className="caution">Gloves, edges only: zinc selenide is toxic if chipped or swallowed.</p>
      </section>
    </div>
  );
}

function Spot({ spotMm, bestMm }: { spotMm: number; bestMm: number }) {
  // Drawn so that the best spot is always the same size on screen.
  const scale = 44 / bestMm;
  const r = Math.min(79, (spotMm * scale) / 2);
  return (
    <figure className="spot">
      <svg viewBox="-80 -80 160 160" aria-hidden="true">
        <circle r={r} fill="var(--hot)" fillOpacity={Math.max(0.15, Math.min(1, (bestMm / spotMm) ** 2))} stroke="var(--hot)" />
        <circle r={(bestMm * scale) / 2} fill="none" stroke="var(--ink)" strokeDasharray="4 3" />
      </svg>
      <figcaption>
        <b>{um(spotMm)}</b> <span className="soft">on the sheet; dashed: the best it can</span>
      </figcaption>
    </figure>
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
    <div className="dial">
      <span className="between">
        <span id={id}>{label}</span>
        <b>
          {shown ?? value} {unit}
        </b>
      </span>
      <Slider min={min} max={max} step={step} value={value} onChange={onChange} tooltip={{ open: false }} ariaLabelledByForHandle={id} />
    </div>
  );
}
