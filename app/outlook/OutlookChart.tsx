/** Effective power over time with rounds, parts and the days to come; fetched when its place comes into view. */
import { Table } from "antd";
import { Chart, Filler, LinearScale, LineElement, PointElement, Tooltip } from "chart.js";
import { Line } from "react-chartjs-2";
import type { PowerSeries } from "#services/machine/powerSeries";
import type { outlookView } from "#services/outlook/outlookView";
import { More } from "../ui/More";

Chart.register(LinearScale, LineElement, PointElement, Tooltip, Filler);

type Ready = NonNullable<Awaited<ReturnType<typeof outlookView>>["ready"]>;
const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();
const dayOf = (ms: number) => new Date(ms).toLocaleDateString("en-GB", { day: "numeric", month: "short" });
const DAY_MS = 86_400_000;

export function OutlookChart({ series, ahead, parts }: { series: PowerSeries; ahead: Ready["ahead"]; parts: Ready["parts"] }) {
  return (
    <>
      <Curve series={series} ahead={ahead} parts={parts} />
      <p className="small soft">
        Red: what the ladders say; from today on, dashed, if nothing is cleaned, with the band it lies in. Green, dotted: if all is kept
        clean. Black, dashed: the tube alone. Triangles: rounds. Diamonds: parts put in.
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
  const floor = Math.min(80, Math.floor(Math.min(...points.map((p) => p.low), ...ahead.map((p) => p.low)) / 10) * 10);
  const [hot, ink, soft, hair, pale, clear] = ["hot", "ink", "soft", "hair", "hot-pale", "clear"].map(colour) as [
    string,
    string,
    string,
    string,
    string,
    string,
  ];
  // Under all lines.
  const none = { pointRadius: 0, tension: 0, borderWidth: 0, order: 10 };
  const marks = (list: readonly number[], y: number, pointStyle: "triangle" | "rectRot") => ({
    data: list.map((x) => ({ x, y })),
    showLine: false,
    pointStyle,
    pointRadius: 5,
    borderColor: ink,
    backgroundColor: ink,
  });
  const [first, last] = [points[0], points.at(-1)];
  return (
    <div className="curve-frame">
      <Line
        role="img"
        aria-label={`Effective power: last ladder ${Math.round(last?.percent ?? 0)} %; in ${ahead.length > 1 ? Math.round(((ahead.at(-1)?.atMs ?? 0) - (ahead[0]?.atMs ?? 0)) / DAY_MS) : 0} days ${Math.round(ahead.at(-1)?.dirty ?? 0)} % if nothing is cleaned, ${Math.round(ahead.at(-1)?.kept ?? 0)} % if all is kept clean`}
        data={{
          datasets: [
            {
              label: "effective power",
              data: points.map((p) => ({ x: p.atMs, y: p.percent })),
              borderColor: hot,
              backgroundColor: hot,
              borderWidth: 2.5,
              pointRadius: points.length > 30 ? 1.5 : 3.5,
              tension: 0,
            },
            {
              label: "tube alone",
              data: points.map((p, i) => ({ x: p.atMs, y: series.tubeAlone[i] ?? 0 })),
              borderColor: ink,
              borderWidth: 1.5,
              borderDash: [6, 5],
              pointRadius: 0,
              tension: 0,
            },
            { label: "high", data: ahead.map((p) => ({ x: p.atMs, y: p.high })), ...none },
            { label: "band", data: ahead.map((p) => ({ x: p.atMs, y: p.low })), ...none, backgroundColor: pale, fill: "-1" },
            {
              label: "if nothing is cleaned",
              data: ahead.map((p) => ({ x: p.atMs, y: p.dirty })),
              borderColor: hot,
              borderWidth: 2,
              borderDash: [5, 4],
              pointRadius: 0,
              tension: 0,
            },
            {
              label: "if all is kept clean",
              data: ahead.map((p) => ({ x: p.atMs, y: p.kept })),
              borderColor: clear,
              borderWidth: 2.5,
              borderDash: [2, 3],
              pointRadius: 0,
              tension: 0,
            },
            { label: "a round", ...marks(series.rounds, floor + 1.5, "triangle") },
            {
              label: "a part put in",
              ...marks(
                parts.map((p) => p.atMs),
                floor + 4.5,
                "rectRot",
              ),
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
              min: (first?.atMs ?? ahead[0]?.atMs ?? 0) - 2 * DAY_MS,
              max: (ahead.at(-1)?.atMs ?? last?.atMs ?? 0) + 2 * DAY_MS,
              ticks: { color: soft, maxRotation: 0, maxTicksLimit: 8, callback: (v) => dayOf(Number(v)) },
            },
            y: { min: floor, suggestedMax: 104, grid: { color: hair }, ticks: { color: soft, stepSize: 10, callback: (v) => `${v} %` } },
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
