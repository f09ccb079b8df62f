/** What all our charts share: colours of the theme, how they behave, the lines of effective power and the marks under them. */
import { Chart, Filler, LinearScale, LineElement, PointElement, Tooltip } from "chart.js";
import type { PowerSeries } from "#services/machine/powerSeries";

Chart.register(LinearScale, LineElement, PointElement, Tooltip, Filler);

/** A colour of the theme, as it is on this page. */
export function colour(name: string): string {
  // A property that holds two looks is resolved only where it is used.
  probe ??= document.body.appendChild(Object.assign(document.createElement("span"), { hidden: true }));
  probe.style.color = `var(--${name})`;
  return getComputedStyle(probe).color;
}
let probe: HTMLElement | undefined;

export const MANNERS = {
  animation: false,
  responsive: true,
  maintainAspectRatio: false,
  interaction: { mode: "nearest", intersect: false },
} as const;

/** Where the axis of percent begins. */
export const floorOf = (lows: readonly number[]): number => Math.min(80, Math.floor(Math.min(...lows) / 10) * 10);

export const percentAxis = (floor: number) => ({
  min: floor,
  suggestedMax: 104,
  grid: { color: colour("hair") },
  ticks: { color: colour("soft"), stepSize: 10, callback: (v: string | number) => `${v} %` },
});

/** What the ladders say, and what the tube alone would give. */
export const powerLines = ({ points, tubeAlone }: PowerSeries) => [
  {
    label: "effective power",
    data: points.map((p) => ({ x: p.atMs, y: p.percent })),
    borderColor: colour("hot"),
    backgroundColor: colour("hot"),
    borderWidth: 2.5,
    pointRadius: points.length > 30 ? 1.5 : 3.5,
    tension: 0,
  },
  {
    label: "tube alone",
    data: points.map((p, i) => ({ x: p.atMs, y: tubeAlone[i] ?? 0 })),
    borderColor: colour("ink"),
    borderWidth: 1.5,
    borderDash: [6, 5],
    pointRadius: 0,
    tension: 0,
  },
];

/** Marks at some times, all at one height. */
export const marks = (label: string, times: readonly number[], y: number, pointStyle: "triangle" | "rectRot") => ({
  label,
  data: times.map((x) => ({ x, y })),
  showLine: false,
  pointStyle,
  pointRadius: 5,
  borderColor: colour("ink"),
  backgroundColor: colour("ink"),
});
