/** Effective power over time with the rounds marked, and the table behind it. */
import { Chart, LinearScale, LineElement, PointElement, Tooltip } from "chart.js";
import { Line } from "react-chartjs-2";

Chart.register(LinearScale, LineElement, PointElement, Tooltip);

export interface PowerPoint {
  readonly atMs: number;
  readonly day: string;
  readonly percent: number;
  readonly low: number;
  readonly high: number;
  readonly what: string;
}

export interface PowerSeries {
  readonly points: readonly PowerPoint[];
  /** Expected power if only the tube had aged, per point, in percent. */
  readonly tubeAlone: readonly number[];
  /** When rounds were done (ms). */
  readonly rounds: readonly number[];
}

/** Air at both ends, so that the outer marks are whole. */
const EDGE_MS = 2 * 86_400_000;

/** A few of the points, evenly apart in time, for the axis. */
function spread(points: readonly PowerPoint[], count: number): PowerPoint[] {
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last) return [];
  const chosen: PowerPoint[] = [];
  const gap = (last.atMs - first.atMs) / count;
  for (const p of points) if (chosen.length === 0 || p.atMs - (chosen.at(-1)?.atMs ?? 0) >= gap) chosen.push(p);
  return chosen;
}

export function PowerChart({ series, height = 150 }: { series: PowerSeries; height?: number }) {
  const { points } = series;
  if (points.length < 2) return <p className="soft">The curve begins with the second ladder.</p>;
  const floor = Math.min(80, Math.floor(Math.min(...points.map((p) => p.low)) / 10) * 10);
  return (
    <div>
      <div style={{ height }}>
        <Line
          aria-label={`Effective power from ${points[0]?.day} to ${points.at(-1)?.day}, last ${Math.round(points.at(-1)?.percent ?? 0)} %`}
          role="img"
          data={{
            datasets: [
              {
                label: "effective power",
                data: points.map((p) => ({ x: p.atMs, y: p.percent })),
                borderColor: "#e2371c",
                backgroundColor: "#e2371c",
                borderWidth: 2.5,
                pointRadius: points.length > 30 ? 1.5 : 3.5,
                tension: 0,
              },
              {
                label: "tube alone",
                data: points.map((p, i) => ({ x: p.atMs, y: series.tubeAlone[i] ?? 0 })),
                borderColor: "#16211c",
                borderWidth: 1.5,
                borderDash: [6, 5],
                pointRadius: 0,
                tension: 0,
              },
              {
                label: "rounds",
                data: series.rounds.map((x) => ({ x, y: floor + 1.5 })),
                showLine: false,
                pointStyle: "triangle",
                pointRadius: 5,
                borderColor: "#16211c",
                backgroundColor: "#16211c",
              },
            ],
          }}
          options={{
            animation: false,
            responsive: true,
            maintainAspectRatio: false,
            interaction: { mode: "nearest", intersect: false },
            scales: {
              x: {
                type: "linear",
                grid: { display: false },
                min: (points[0]?.atMs ?? 0) - EDGE_MS,
                max: (points.at(-1)?.atMs ?? 0) + EDGE_MS,
                ticks: {
                  color: "#4b5a52",
                  maxRotation: 0,
                  callback: (v) => points.find((p) => p.atMs === v)?.day.replace(/^\w+ /, "") ?? "",
                },
                afterBuildTicks: (axis) => {
                  axis.ticks = spread(points, 6).map((p) => ({ value: p.atMs }));
                },
              },
              y: {
                min: floor,
                suggestedMax: 104,
                grid: { color: "#cfd8d1" },
                ticks: { color: "#4b5a52", stepSize: 10, callback: (v) => `${v} %` },
              },
            },
            plugins: {
              tooltip: {
                callbacks: {
                  title: () => "",
                  label: (item) => {
                    const p = points[item.dataIndex];
                    if (item.datasetIndex === 2) return "a round";
                    return item.datasetIndex === 0 && p
                      ? `${p.what}: about ${Math.round(p.percent)} %, ${Math.round(p.low)} to ${Math.round(p.high)}`
                      : `tube alone: ${Math.round(item.parsed.y ?? 0)} %`;
                  },
                },
              },
            },
          }}
        />
      </div>
      <p className="small soft">Red: what the ladders say. Dashed: if only the tube had aged. Triangles: rounds.</p>
      <details>
        <summary className="small">The same as a table</summary>
        <table className="plain small">
          <thead>
            <tr>
              <th scope="col">Day</th>
              <th scope="col">What</th>
              <th scope="col">Of best</th>
              <th scope="col">Somewhere in</th>
            </tr>
          </thead>
          <tbody>
            {[...points].reverse().map((p) => (
              <tr key={p.atMs}>
                <td>{p.day}</td>
                <td>{p.what}</td>
                <td>{Math.round(p.percent)} %</td>
                <td>
                  {Math.round(p.low)} to {Math.round(p.high)} %
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </div>
  );
}
