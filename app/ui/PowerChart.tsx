/** The curve of effective power with the rounds marked, and the table behind it. Fetched by PowerCurve, for the chart is heavy. */
import { Table } from "antd";
import { Line } from "react-chartjs-2";
import type { PowerPoint, PowerSeries } from "#services/machine/powerSeries";
import { colour, floorOf, MANNERS, marks, percentAxis, powerLines } from "./chart";
import { More } from "./More";

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

export function PowerChart({ series }: { series: PowerSeries }) {
  return (
    <>
      <Curve series={series} />
      <p className="small soft">Red: what the ladders say. Dashed: if only the tube had aged. Triangles: rounds.</p>
      <More label="The same as a table">
        <Table
          size="small"
          pagination={false}
          rowKey="atMs"
          dataSource={series.points.toReversed()}
          columns={[
            { title: "Day", dataIndex: "day" },
            { title: "What", dataIndex: "what" },
            { title: "Of best", render: (_, p) => `${Math.round(p.percent)} %` },
            { title: "Somewhere in", render: (_, p) => `${Math.round(p.low)} to ${Math.round(p.high)} %` },
          ]}
        />
      </More>
    </>
  );
}

function Curve({ series }: { series: PowerSeries }) {
  const { points } = series;
  const floor = floorOf(points.map((p) => p.low));
  return (
    <div className="curve-frame">
      <Line
        aria-label={`Effective power from ${points[0]?.day} to ${points.at(-1)?.day}, last ${Math.round(points.at(-1)?.percent ?? 0)} %`}
        role="img"
        data={{ datasets: [...powerLines(series), marks("rounds", series.rounds, floor + 1.5, "triangle")] }}
        options={{
          ...MANNERS,
          scales: {
            x: {
              type: "linear",
              grid: { display: false },
              min: (points[0]?.atMs ?? 0) - EDGE_MS,
              max: (points.at(-1)?.atMs ?? 0) + EDGE_MS,
              ticks: {
                color: colour("soft"),
                maxRotation: 0,
                callback: (v) => points.find((p) => p.atMs === v)?.day.replace(/^\w+ /, "") ?? "",
              },
              afterBuildTicks: (axis) => {
                axis.ticks = spread(points, 6).map((p) => ({ value: p.atMs }));
              },
            },
            y: percentAxis(floor),
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
  );
}
