/** Measured figures over time, a line each, and the table behind them. Fetched by whoever shows them. */
import { Table } from "antd";
import { Line } from "react-chartjs-2";
import type { FigureLine } from "#services/log/kindSeries";
import { colour, MANNERS } from "./chart";
import { More } from "./More";

/** Told apart by colour, by dashes and by the mark of their points. */
const LOOKS = [
  { colour: "ink", dash: [], mark: "circle" },
  { colour: "clear", dash: [7, 4], mark: "rect" },
  { colour: "film", dash: [2, 3], mark: "triangle" },
  { colour: "damaged", dash: [10, 3, 2, 3], mark: "rectRot" },
  { colour: "spots", dash: [4, 2], mark: "star" },
] as const;

export function FigureChart({ lines, quiet = false }: { lines: readonly FigureLine[]; quiet?: boolean }) {
  const units = [...new Set(lines.map((l) => l.unit))];
  return (
    <div className="stack">
      {units.map((unit) => (
        <Curve key={unit} unit={unit} seconds={quiet} lines={lines.filter((l) => l.unit === unit)} />
      ))}
      {quiet ? null : (
        <More label="The same as a table">
          <Table
            size="small"
            pagination={false}
            rowKey={(row) => `${row.name} ${row.atMs}`}
            dataSource={lines.flatMap((l) => l.points.map((p) => ({ ...p, name: l.name }))).sort((a, b) => b.atMs - a.atMs)}
            columns={[
              { title: "Day", dataIndex: "day" },
              { title: "What", dataIndex: "name" },
              { title: "Figure", dataIndex: "said" },
            ]}
          />
        </More>
      )}
    </div>
  );
}

function Curve({ unit, lines, seconds }: { unit: string; lines: readonly FigureLine[]; seconds: boolean }) {
  const [soft, hair] = [colour("soft"), colour("hair")];
  const all = lines.flatMap((l) => l.points);
  return (
    <div className="curve-frame">
      <Line
        role="img"
        aria-label={lines.map((l) => `${l.name}: last ${l.points.at(-1)?.said}`).join("; ")}
        data={{
          datasets: lines.map((l, i) => {
            const look = LOOKS[i % LOOKS.length] as (typeof LOOKS)[number];
            return {
              label: l.name,
              data: l.points.map((p) => ({ x: p.atMs, y: p.value })),
              borderColor: colour(look.colour),
              backgroundColor: colour(look.colour),
              borderDash: [...look.dash],
              pointStyle: look.mark,
              pointRadius: l.points.length > 60 ? 1.5 : 3.5,
              borderWidth: 2,
              tension: 0,
            };
          }),
        }}
        options={{
          ...MANNERS,
          scales: {
            x: {
              type: "linear",
              grid: { display: false },
              ticks: {
                color: soft,
                maxRotation: 0,
                maxTicksLimit: 7,
                callback: (v) => (seconds ? `${v} s` : new Date(Number(v)).toLocaleDateString("en-GB", { day: "numeric", month: "short" })),
              },
            },
            y: { grid: { color: hair }, ticks: { color: soft, maxTicksLimit: 6, callback: (v) => `${v} ${unit}` } },
          },
          plugins: {
            tooltip: {
              callbacks: {
                title: () => "",
                label: (item) => {
                  const p = lines[item.datasetIndex]?.points[item.dataIndex];
                  return p ? `${p.day}: ${lines[item.datasetIndex]?.name}, ${p.said}` : "";
                },
              },
            },
          },
        }}
      />
      <ul className="row small soft">
        {lines.map((l, i) => (
          <li key={l.name}>
            <svg width="34" height="10" aria-hidden="true">
              <line
                x1="0"
                x2="34"
                y1="5"
                y2="5"
                stroke={`var(--${LOOKS[i % LOOKS.length]?.colour})`}
                strokeWidth="2.5"
                strokeDasharray={LOOKS[i % LOOKS.length]?.dash.join(" ")}
              />
            </svg>{" "}
            {l.name}: last {l.points.at(-1)?.said}
          </li>
        ))}
      </ul>
      <span className="sr">{all.length} points</span>
    </div>
  );
}
