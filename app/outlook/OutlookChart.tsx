/** Effective power over time with rounds, parts and the days to come; fetched when its place comes into view. */
import { Table } from "antd";
import { Line } from "react-chartjs-2";
import type { PowerSeries } from "#services/machine/powerSeries";
import type { outlookView } from "#services/outlook/outlookView";
import { colour, floorOf, MANNERS, marks, percentAxis, powerLines } from "../ui/chart";
import { More } from "../ui/More";

type Ready = NonNullable<Awaited<ReturnType<typeof outlookView>>["ready"]>;
const dayOf = (ms: number) => new Date(ms).toLocaleDateString("en-GB", { day: "numeric", month: "short" });
const DAY_MS = 86_400_000;

export function OutlookChart({ series, ahead, parts }: { series: PowerSeries; ahead: Ready["ahead"]; parts: Ready["parts"] }) {
  return (
    <>
      <Curve series={series} ahead={ahead} parts={parts} />
      <p className="small soft">
        Red: what the ladders say; from today on, dashed, if nothing is cleaned, with the band it lies in. Green, dotted: if all is kept
        clean. Long dashes: the tube alone. Triangles: rounds. Diamonds: parts put in.
      </p>
      <More label="The days to come as a table">
        <Table
          size="small"
          pagination={false}
          rowKey="atMs"
          dataSource={[...ahead]}
          columns={[
            { title: "Day", render: (_, p) => dayOf(p.atMs) },
            { title: "Nothing cleaned", render: (_, p) => `${Math.round(p.dirty)} %` },
            { title: "Somewhere in", render: (_, p) => `${Math.round(p.low)} to ${Math.round(p.high)} %` },
            { title: "Kept clean", render: (_, p) => `${Math.round(p.kept)} %` },
          ]}
        />
      </More>
    </>
  );
}

function Curve({ series, ahead, parts }: { series: PowerSeries; ahead: Ready["ahead"]; parts: Ready["parts"] }) {
  const { points } = series;
  const floor = floorOf([...points, ...ahead].map((p) => p.low));
  // Under all lines.
  const band = { pointRadius: 0, tension: 0, borderWidth: 0, order: 10 };
  const lineOf = (label: string, y: "dirty" | "kept", name: string, borderDash: number[]) => ({
    label,
    data: ahead.map((p) => ({ x: p.atMs, y: p[y] })),
    borderColor: colour(name),
    borderWidth: 2.2,
    borderDash,
    pointRadius: 0,
    tension: 0,
  });
  const [first, last] = [points[0], points.at(-1)];
  return (
    <div className="curve-frame">
      <Line
        role="img"
        aria-label={`Effective power: last ladder ${Math.round(last?.percent ?? 0)} %; in ${ahead.length > 1 ? Math.round(((ahead.at(-1)?.atMs ?? 0) - (ahead[0]?.atMs ?? 0)) / DAY_MS) : 0} days ${Math.round(ahead.at(-1)?.dirty ?? 0)} % if nothing is cleaned, ${Math.round(ahead.at(-1)?.kept ?? 0)} % if all is kept clean`}
        data={{
          datasets: [
            ...powerLines(series),
            { label: "high", data: ahead.map((p) => ({ x: p.atMs, y: p.high })), ...band },
            { label: "band", data: ahead.map((p) => ({ x: p.atMs, y: p.low })), ...band, backgroundColor: colour("hot-pale"), fill: "-1" },
            lineOf("if nothing is cleaned", "dirty", "hot", [5, 4]),
            lineOf("if all is kept clean", "kept", "clear", [2, 3]),
            marks("a round", series.rounds, floor + 1.5, "triangle"),
            marks(
              "a part put in",
              parts.map((p) => p.atMs),
              floor + 4.5,
              "rectRot",
            ),
          ],
        }}
        options={{
          ...MANNERS,
          scales: {
            x: {
              type: "linear",
              grid: { display: false },
              min: (first?.atMs ?? ahead[0]?.atMs ?? 0) - 2 * DAY_MS,
              max: (ahead.at(-1)?.atMs ?? last?.atMs ?? 0) + 2 * DAY_MS,
              ticks: { color: colour("soft"), maxRotation: 0, maxTicksLimit: 8, callback: (v) => dayOf(Number(v)) },
            },
            y: percentAxis(floor),
          },
          plugins: {
            tooltip: {
              filter: (item) => item.dataset.label !== "high" && item.dataset.label !== "band",
              callbacks: {
                title: () => "",
                label: (item) => {
                  const p = points[item.dataIndex];
                  if (item.datasetIndex === 0 && p)
                    return `${p.day}, ${p.what}: about ${Math.round(p.percent)} %, ${Math.round(p.low)} to ${Math.round(p.high)}`;
                  if (item.dataset.label === "a part put in") return `${parts[item.dataIndex]?.name} put in, ${dayOf(item.parsed.x ?? 0)}`;
                  if (item.dataset.label === "a round") return `a round, ${dayOf(item.parsed.x ?? 0)}`;
                  return `${dayOf(item.parsed.x ?? 0)}, ${item.dataset.label}: ${Math.round(item.parsed.y ?? 0)} %`;
                },
              },
            },
          },
        }}
      />
    </div>
  );
}
