/** The marks pad: the part's ring seen along the beam, the mark in it to drag or to move with the arrow keys. */
import { useRef } from "react";
import { withUnit } from "#services/units";
import { pad } from "./padScale";

export interface Place {
  readonly right: number;
  readonly up: number;
}

interface Sides {
  readonly right: string;
  readonly left: string;
  readonly up: string;
  readonly down: string;
}

export interface PadProps {
  readonly apertureMm: number;
  readonly sides: Sides;
  readonly mark?: Place | undefined;
  readonly onMove?: ((to: Place) => void) | undefined;
  readonly expected?: (Place & { readonly sd?: number }) | undefined;
  readonly from?: Place | undefined;
  readonly others?: readonly (Place & { readonly words: string })[];
  readonly label: string;
}

const SIZE = 340;
const EDGE = 26;
const tenths = (mm: number) => Math.round(mm * 10) / 10;

export function Pad({ apertureMm, sides, mark, onMove, expected, from, others = [], label }: PadProps) {
  const svg = useRef<SVGSVGElement>(null);
  const places = [mark, expected, from, ...others].filter((p) => p !== undefined);
  const { spanMm, gridMm } = pad(apertureMm, places);
  const scale = (SIZE / 2 - EDGE) / spanMm;
  const x = (mm: number) => SIZE / 2 + mm * scale;
  const y = (mm: number) => SIZE / 2 - mm * scale;
  const drag = (clientX: number, clientY: number) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box || !onMove) return;
    const mm = (at: number, from: number, size: number) => ((at - from) / size - 0.5) * (SIZE / scale);
    const within = (v: number) => tenths(Math.min(spanMm, Math.max(-spanMm, v)));
    onMove({ right: within(mm(clientX, box.left, box.width)), up: within(-mm(clientY, box.top, box.height)) });
  };
  const step = (event: React.KeyboardEvent) => {
    const by = event.shiftKey ? 1 : 0.1;
    const move = { ArrowRight: [by, 0], ArrowLeft: [-by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] }[event.key];
    if (!move || !onMove || !mark) return;
    event.preventDefault();
    onMove({ right: tenths(mark.right + (move[0] ?? 0)), up: tenths(mark.up + (move[1] ?? 0)) });
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with a handle in it, no set of fields.
    <svg
      ref={svg}
      className={onMove ? "pad live" : "pad"}
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      role="group"
      aria-label={label}
      onPointerDown={(e) => {
        if (!onMove) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        drag(e.clientX, e.clientY);
      }}
      onPointerMove={(e) => {
        if (e.buttons > 0) drag(e.clientX, e.clientY);
      }}
    >
      <circle cx={x(0)} cy={y(0)} r={(apertureMm / 2) * scale} fill="var(--ground)" stroke="var(--ink)" strokeWidth="2" />
      <circle cx={x(0)} cy={y(0)} r={(apertureMm / 4) * scale} fill="none" stroke="var(--soft)" strokeDasharray="4 4" />
      <path d={`M${EDGE} ${y(0)} H${SIZE - EDGE} M${x(0)} ${EDGE} V${SIZE - EDGE}`} stroke="var(--line)" strokeWidth="1.5" />
      <path d={`M${x(0)} ${SIZE - EDGE} h${gridMm * scale} m0 -4 v8`} stroke="var(--soft)" strokeWidth="2" fill="none" />
      <text x={x(gridMm) + 6} y={SIZE - EDGE + 4} fontSize="12" fill="var(--soft)">
        {withUnit(gridMm, "mm")}
      </text>
      <text x={SIZE / 2} y="15" textAnchor="middle" fontSize="13" fill="var(--ink)">
        {sides.up}
      </text>
      <text x={SIZE / 2} y={SIZE - 5} textAnchor="middle" fontSize="13" fill="var(--ink)">
        {sides.down}
      </text>
      <text
        x={SIZE - 10}
        y={SIZE / 2}
        textAnchor="middle"
        fontSize="13"
        fill="var(--ink)"
        transform={`rotate(90 ${SIZE - 10} ${SIZE / 2})`}
      >
        {sides.right}
      </text>
      <text x="10" y={SIZE / 2} textAnchor="middle" fontSize="13" fill="var(--ink)" transform={`rotate(-90 10 ${SIZE / 2})`}>
        {sides.left}
      </text>
      {expected ? (
        <circle
          cx={x(expected.right)}
          cy={y(expected.up)}
          r={Math.max(9, 2 * (expected.sd ?? 0) * scale)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="2"
          strokeDasharray="2 4"
        />
      ) : null}
      {from && expected ? (
        <path d={`M${x(from.right)} ${y(from.up)} L${x(expected.right)} ${y(expected.up)}`} stroke="var(--ink)" strokeWidth="2" />
      ) : null}
      {from ? <circle cx={x(from.right)} cy={y(from.up)} r="6" fill="var(--hot)" /> : null}
      {others.map((o) => (
        <rect
          key={o.words}
          x={x(o.right) - 5}
          y={y(o.up) - 5}
          width="10"
          height="10"
          fill="var(--card)"
          stroke="var(--ink)"
          strokeWidth="2"
        >
          <title>{o.words}</title>
        </rect>
      ))}
      {mark ? (
        <g
          className="pad-mark"
          transform={`translate(${x(mark.right)} ${y(mark.up)})`}
          {...(onMove
            ? {
                tabIndex: 0,
                role: "slider",
                "aria-label": "The mark: arrow keys move it, with shift by a millimetre",
                "aria-valuenow": mark.right,
                "aria-valuetext": `${withUnit(mark.right, "mm")} right, ${withUnit(mark.up, "mm")} up`,
                onKeyDown: step,
              }
            : {})}
        >
          <circle r="22" fill="transparent" />
          <circle r="8" fill="var(--hot)" />
          <path d="M-14 0 H14 M0 -14 V14" stroke="var(--hot)" strokeWidth="2" />
        </g>
      ) : null}
    </svg>
  );
}
