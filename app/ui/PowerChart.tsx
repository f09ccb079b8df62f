/** Effective power over time with the rounds marked, and the table behind it. */
import { CategoryScale, Chart, LinearScale, LineElement, PointElement, Tooltip } from "chart.js";
import { Line } from "react-chartjs-2";

Chart.register(CategoryScale, LinearScale, LineElement, PointElement, Tooltip);

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
  readonly rounds: readonly string[];
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
            labels: points.map((p) => p.day),
            datasets: [
              { label: "effective power", data: points.map((p) => p.percent), borderColor: "#e2371c", backgroundColor: "#e2371c", borderWidth: 2.5, pointRadius: points.length > 30 ? 1.5 : 3.5, tension: 0 },
              { label: "tube alone", data: [...series.tubeAlone], borderColor: "#16211c", borderWidth: 1.5, borderDash: [6, 5], pointRadius: 0, tension: 0 },
            ],
          }}
          options={{
            animation: false,
            responsive: true,
            maintainAspectRatio: false,
            interaction: { mode: "index", intersect: false },
            scales: {
              x: { grid: { display: false }, ticks: { color: "#4b5a52", maxTicksLimit: 7, maxRotation: 0 } },
              y: { min: floor, suggestedMax: 104, grid: { color: "#cfd8d1" }, ticks: { color: "#4b5a52", stepSize: 10, callback: (v) => `${v} %` } },
            },
            plugins: {
              tooltip: {
                callbacks: {
                  label: (item) => {
                    const p = points[item.dataIndex];
                    return item.datasetIndex === 0 && p ? `${p.what}: about ${Math.round(p.percent)} %, ${Math.round(p.low)} to ${Math.round(p.high)}` : `tube alone: ${Math.round(item.parsed.y ?? 0)} %`;
                  },
                },
              },
            },
          }}
        />
      </div>
      <p className="small soft">Red: what the ladders say. Dashed: if only the tube had aged.</p>
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
