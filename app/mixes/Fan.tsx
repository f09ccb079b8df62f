/** Rays near the focus with the sheet to drag up and down. The slider beside it does the same from the keyboard. */
import { useRef } from "react";
import type { LensPicture } from "#core/beam";
import { unitHere } from "#services/units";
import { signed, um } from "./lensWords";

/** The window drawn around the usual focus, mm along the beam and across it. */
export const SPAN_MM = 4;
const WIDE_MM = 0.42;
const W = 460;
const H = 380;

const y = (mm: number) => H / 2 + (mm / SPAN_MM) * (H / 2);
const x = (mm: number) => W / 2 + (mm / WIDE_MM) * (W / 2);

export function Fan({ picture: p, offMm, onDrag }: { picture: LensPicture; offMm: number; onDrag: (offMm: number) => void }) {
  const svg = useRef<SVGSVGElement>(null);
  const drag = (clientY: number) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return;
    const mm = (((clientY - box.top) / box.height) * 2 - 1) * SPAN_MM;
    onDrag(Math.round(10 * Math.min(SPAN_MM, Math.max(-SPAN_MM, mm))) / 10);
  };
  return (
    <svg
      ref={svg}
      className="fan"
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={`Rays near the focus; the sheet ${signed(offMm)} ${unitHere("mm")} from the usual height, spot ${um(p.spotMm)}`}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag(e.clientY);
      }}
      onPointerMove={(e) => {
        if (e.buttons > 0) drag(e.clientY);
      }}
    >
      {p.rays.map((r) => (
        <path
          key={r.share}
          d={`M${x(r.fromMm)} 0 L${x(r.toMm)} ${H}`}
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
        <rect x={x(-p.spotMm / 2)} y="0" width={Math.max(2, x(p.spotMm / 2) - x(-p.spotMm / 2))} height="4" fill="var(--hot)" />
        <path
          d={`M${W - 34} -4 v-14 m-6 7 l6 -7 l6 7 M${W - 34} 14 v14 m-6 -7 l6 7 l6 -7`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="2"
        />
      </g>
      <text x={W - 8} y={y(offMm) + (offMm > SPAN_MM - 1 ? -8 : 26)} textAnchor="end" fontSize="13" fill="var(--ink)" dx="-44">
        sheet {signed(offMm)} {unitHere("mm")}
      </text>
    </svg>
  );
}

export function Spot({ spotMm, bestMm }: { spotMm: number; bestMm: number }) {
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
