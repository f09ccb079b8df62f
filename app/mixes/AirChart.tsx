/** Flow over time against the clean baseline, with the suction beside it where it was read. Fetched when it is seen. */
import { Table } from "antd";
import { Line } from "react-chartjs-2";
import { figureHere, unitHere } from "#services/units";
import { colour, MANNERS } from "../ui/chart";
import { More } from "../ui/More";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];

type View = NonNullable<Loaded["air"]>;

export function AirChart({ view }: { view: View }) {
  const [hot, ink, soft, hair] = [colour("hot"), colour("ink"), colour("soft"), colour("hair")];
  // In the unit it is read in, so that the marks at the side are round.
  const read = (m3h: number) => Number(figureHere(m3h, "m³/h", 2));
  const series = view.series.map((p) => ({ ...p, flow: read(p.flow) }));
  const cleanFlow = view.cleanFlow === undefined ? undefined : read(view.cleanFlow);
  const [first, last] = [series[0]?.atMs ?? 0, series.at(-1)?.atMs ?? 0];
  const pressed = series.filter((p) => p.pressure !== undefined);
  const top = 1.15 * Math.max(cleanFlow ?? 0, ...series.map((p) => p.flow));
  const scale = pressed.length > 0 ? top / (1.15 * Math.max(...pressed.map((p) => p.pressure ?? 0))) : 1;
  return (
    <>
      <div className="curve-frame">
        <Line
          role="img"
          aria-label={`Airflow, last ${Math.round(series.at(-1)?.flow ?? 0)} ${unitHere("m³/h")}`}
          data={{
            datasets: [
              {
                label: "flow",
                data: series.map((p) => ({ x: p.atMs, y: p.flow })),
                borderColor: hot,
                backgroundColor: hot,
                borderWidth: 2.5,
                pointRadius: 3,
              },
              ...(cleanFlow === undefined
                ? []
                : [
                    {
                      label: "clean",
                      data: [
                        { x: first, y: cleanFlow },
                        { x: last, y: cleanFlow },
                      ],
                      borderColor: ink,
                      borderDash: [6, 5],
                      borderWidth: 1.5,
                      pointRadius: 0,
                    },
                  ]),
              ...(pressed.length === 0
                ? []
                : [
                    {
                      label: "suction",
                      data: pressed.map((p) => ({ x: p.atMs, y: (p.pressure ?? 0) * scale })),
                      borderColor: soft,
                      backgroundColor: soft,
                      borderWidth: 1.5,
                      pointStyle: "rect" as const,
                      pointRadius: 4,
                    },
                  ]),
            ],
          }}
          options={{
            ...MANNERS,
            scales: {
              x: {
                type: "linear",
                min: first,
                max: last,
                grid: { display: false },
                ticks: {
                  color: soft,
                  maxRotation: 0,
                  maxTicksLimit: 7,
                  callback: (v) => new Date(Number(v)).toLocaleDateString("en-GB", { day: "numeric", month: "short" }),
                },
              },
              y: {
                min: 0,
                max: top,
                grid: { color: hair },
                ticks: { color: soft, maxTicksLimit: 6, callback: (v) => `${Math.round(Number(v))} ${unitHere("m³/h")}` },
              },
            },
            plugins: { tooltip: { enabled: false } },
          }}
        />
      </div>
      <p className="small soft">
        Red: flow. Dashed: when clean.{pressed.length > 0 ? " Squares: suction at the fan, to its own scale." : ""}
      </p>
      <More label="The same as a table">
        <Table
          size="small"
          pagination={false}
          rowKey="atMs"
          dataSource={series.toReversed()}
          columns={[
            { title: "Day", dataIndex: "day" },
            { title: "Flow", render: (_, p) => `${Math.round(p.flow)} ${unitHere("m³/h")}` },
            { title: "Suction", render: (_, p) => (p.pressure === undefined ? "not read" : `${Math.round(p.pressure)} Pa`) },
          ]}
        />
      </More>
    </>
  );
}
