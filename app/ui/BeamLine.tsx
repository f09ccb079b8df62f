/**
 * The machine's beam path as one line from the tube to the work: the table of contents of every place. Marks show the grade as last
 * left, a ring how much of the interval is used, the line's width the light left; while a case is open, how suspect each station is.
 */

import "./beam.css";
import { Suspense, useState } from "react";
import type { BeamLineData, BeamStation } from "#services/machine/beamLine";
import { fetched } from "./fetched";
import { GradeShape } from "./GradeMark";

export interface Suspicion {
  readonly probability: number;
  /** How probable it is that something is wrong there, and the same with the name of what stands off the path. */
  readonly chance: string;
  readonly words: string;
  /** Watts the trace takes to leave it now, worded, and the share of the light: one reading of the facts while a case is open. */
  readonly watts?: string | undefined;
  readonly light?: number | undefined;
}

/** It comes when it is opened. */
const BeamSheet = fetched(() => import("./BeamSheet").then((m) => m.BeamSheet));

const PITCH = 76;
/** Where the line stands at each station: it jogs at every mirror. */
function columns(stations: readonly BeamStation[]): number[] {
  let right = false;
  return stations.map((s) => {
    if (s.role === "mirror") right = !right;
    return right ? 45 : 26;
  });
}

/** Arc of a ring that fills with use, clockwise from the top. */
function ring(used: number, r: number): string {
  const share = Math.min(0.999, Math.max(0, used));
  const angle = 2 * Math.PI * share;
  const x = r * Math.sin(angle);
  const y = -r * Math.cos(angle);
  return `M0 ${-r} A${r} ${r} 0 ${share > 0.5 ? 1 : 0} 1 ${x.toFixed(2)} ${y.toFixed(2)}`;
}

function Mark({ station, tubeW }: { station: BeamStation; tubeW: string }) {
  if (station.role === "tube") {
    return (
      <>
        <rect x="-15" y="-20" width="30" height="40" rx="9" fill="var(--ink)" />
        <text y="4" textAnchor="middle" fill="var(--card)" fontSize="11.5" fontWeight="650">
          {tubeW}
        </text>
      </>
    );
  }
  const late = station.used !== undefined && station.used >= 1;
  return (
    <>
      <circle r="16" fill="var(--rail)" />
      <circle r="13.5" fill="none" stroke={late ? "var(--hot-pale)" : "var(--line)"} strokeWidth="3" />
      {station.used !== undefined ? (
        <path d={ring(station.used, 13.5)} fill="none" stroke={late ? "var(--hot)" : "var(--ink)"} strokeWidth="3" />
      ) : null}
      <GradeShape grade={station.grade} r={9} />
    </>
  );
}

/** What is off the path is named where it matters most; the list of faults has the rest. */
const MOST_BRANCHES = 3;

export function BeamLine({ data, suspicion }: { data: BeamLineData; suspicion?: Readonly<Record<string, Suspicion>> }) {
  const [open, setOpen] = useState<string | undefined>(undefined);
  const xs = columns(data.stations);
  const shown = data.stations.find((s) => s.id === open);
  const estimated = suspicion !== undefined && Object.values(suspicion).some((s) => s.watts !== undefined);
  const branches = suspicion
    ? Object.entries(suspicion)
        .filter(([id, s]) => !data.stations.some((x) => x.id === id) && s.probability >= 0.05)
        .sort(([, a], [, b]) => b.probability - a.probability)
        .slice(0, MOST_BRANCHES)
    : [];
  return (
    <nav className="beam" aria-label="Beam line, from the tube to the work">
      <ol>
        {data.stations.map((station, i) => {
          const x = xs[i] as number;
          const next = xs[i + 1] ?? x;
          const suspect = suspicion?.[station.id];
          const width = 2 + 5 * (suspect?.light ?? station.light);
          const watts = estimated ? suspect?.watts : station.watts;
          return (
            <li className="beam-row" key={station.id}>
              <svg className="down" width="62" height={PITCH} aria-hidden="true">
                <path
                  d={next === x ? `M${x} 18 V${PITCH + 18}` : `M${x} 18 V${PITCH - 4} L${next} ${PITCH + 12} V${PITCH + 18}`}
                  fill="none"
                  stroke="var(--hot)"
                  strokeWidth={width}
                  strokeLinejoin="round"
                />
                <g transform={`translate(${x} 18)`}>
                  <Mark station={station} tubeW={data.tubeW} />
                </g>
              </svg>
              <svg className="across" width="84" height="44" aria-hidden="true">
                <path d={i === 0 ? "M42 22 H84" : "M0 22 H84"} stroke="var(--hot)" strokeWidth={width} />
                <g transform="translate(42 22)">
                  <Mark station={station} tubeW={data.tubeW} />
                </g>
              </svg>
              <div className="beam-words">
                <button type="button" className="name" onClick={() => setOpen(station.id)}>
                  <span>{station.name}</span>
                  {watts ? <span className="watts">{watts}</span> : null}
                </button>
                {suspect ? (
                  suspect.probability >= 0.03 ? (
                    <div className="suspicion">
                      <i style={{ width: Math.round(64 * suspect.probability) }} />
                      <span className="only-wide">fault here:</span>
                      {suspect.chance}
                    </div>
                  ) : (
                    <div className="sub">unlikely</div>
                  )
                ) : (
                  <div className="sub">
                    {station.status[0]}
                    {station.status[1] ? <span className="only-wide"> · {station.status[1]}</span> : null}
                  </div>
                )}
              </div>
            </li>
          );
        })}
        <li className="beam-row work">
          <svg className="down" width="62" height="34" aria-hidden="true">
            <path d={`M${xs.at(-1)} 0 V16`} stroke="var(--hot)" strokeWidth="3" />
            <rect x="8" y="16" width="50" height="7" fill="var(--ink)" />
          </svg>
          <div className="beam-words">
            <div className="sub only-wide">work: {data.work}</div>
            {estimated || data.wattsRead ? (
              <div className="sub only-wide">
                {estimated
                  ? "watts: what this case expects now"
                  : data.isOldReading
                    ? `${data.wattsRead}: too long ago to say much of today`
                    : data.wattsRead}
              </div>
            ) : null}
          </div>
        </li>
      </ol>
      {branches.length > 0 || data.branches.length > 0 ? (
        <ul className="branches lines" aria-label="Off the path">
          {branches.map(([id, s]) => (
            <li key={id} className="suspicion">
              <i style={{ width: Math.round(60 * s.probability) }} /> {s.words}
            </li>
          ))}
          {suspicion
            ? null
            : data.branches.map((b) => (
                <li key={b.id}>
                  <b>{b.name}</b> <span className={b.isBad ? "hot" : "soft"}>{b.text}</span>
                </li>
              ))}
        </ul>
      ) : null}
      {shown ? (
        <Suspense>
          <BeamSheet data={data} shown={shown} onClose={() => setOpen(undefined)} />
        </Suspense>
      ) : null}
    </nav>
  );
}
