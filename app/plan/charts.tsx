/** The drawings of a task's interval: chance of finding it bad with what was found, and minutes by how often. Fetched when a task is shown. */
import { Table } from "antd";
import { Line } from "react-chartjs-2";
import type { CostView, LearnedView } from "#services/plan/taskView";
import { colour, MANNERS } from "../ui/chart";
import { More } from "../ui/More";

/** A tick of an axis, without the dust of its sum. */
const whole = (v: string | number) => String(Math.round(10 * Number(v)) / 10);

const plain = (name: string, data: readonly { x: number; y: number }[], look: object) => ({
  label: name,
  data: [...data],
  pointRadius: 0,
  borderWidth: 2,
  tension: 0,
  ...look,
});
const upright = (name: string, x: number, top: number, look: object) =>
  plain(
    name,
    [
      { x, y: 0 },
      { x, y: top },
    ],
    look,
  );

export function LearnedChart({ view }: { view: LearnedView }) {
  const [ink, soft, hot, hair] = [colour("ink"), colour("soft"), colour("hot"), colour("hair")];
  const top = Math.max(3 * view.target, ...view.chance.map((p) => p.y));
  const most = view.chance.at(-1)?.x ?? 1;
  const dots = (isBad: boolean) => view.found.filter((f) => f.isBad === isBad);
  const at = (list: typeof view.found, y: number) => list.map((f) => ({ x: f.dose, y }));
  return (
    <div className="stack tight">
      <div className="curve-frame plan-curve">
        <Line
          role="img"
          aria-label={`Chance of finding it bad by ${view.unit}: ${view.target} % at ${view.learned.toFixed(1)}, school ${view.school.toFixed(1)}`}
          data={{
            datasets: [
              plain("chance bad", view.chance, { borderColor: hot }),
              plain(
                "target",
                [
                  { x: 0, y: view.target },
                  { x: most, y: view.target },
                ],
                { borderColor: soft, borderDash: [6, 5], borderWidth: 1.5 },
              ),
              upright("school", view.school, top, { borderColor: soft, borderWidth: 1.5 }),
              upright("learned", view.learned, top, { borderColor: ink }),
              ...view.caps.filter((c) => c <= most).map((c) => upright("cap", c, top, { borderColor: hair, borderDash: [2, 3] })),
              plain("found good", at(dots(false), top * 0.04), {
                showLine: false,
                pointStyle: "circle",
                pointRadius: 5,
                borderColor: ink,
                backgroundColor: colour("card"),
              }),
              plain("found bad", at(dots(true), top * 0.96), {
                showLine: false,
                pointStyle: "rectRot",
                pointRadius: 6,
                borderColor: hot,
                backgroundColor: hot,
              }),
            ],
          }}
          options={{
            ...MANNERS,
            scales: {
              x: {
                type: "linear",
                min: 0,
                max: most,
                grid: { display: false },
                ticks: { color: soft, maxTicksLimit: 6, maxRotation: 0, callback: whole },
                title: { display: true, text: view.unit, color: soft },
              },
              y: {
                min: 0,
                max: top,
                grid: { color: hair },
                ticks: { color: soft, maxTicksLimit: 5, callback: (v) => `${Math.round(Number(v))} %` },
              },
            },
            plugins: { tooltip: { enabled: false } },
          }}
        />
      </div>
      <p className="small soft">
        Red: chance of finding it bad. Thick line: learned; thin: school; dotted: caps; dashed: what you accept. Circles: found good;
        diamonds: found bad.
      </p>
      {view.found.length > 0 ? (
        <More label="The same as a list">
          <ul className="lines">
            {view.found.toReversed().map((f) => (
              <li key={`${f.day} ${f.dose}`}>{f.said}</li>
            ))}
          </ul>
        </More>
      ) : null}
    </div>
  );
}

export function CostChart({ view }: { view: CostView }) {
  const [ink, soft, hot, hair] = [colour("ink"), colour("soft"), colour("hot"), colour("hair")];
  const top = 1.15 * Math.max(...view.marks.map((m) => m.y), ...view.curve.slice(10).map((p) => p.y));
  return (
    <div className="stack tight">
      <div className="curve-frame plan-curve">
        <Line
          role="img"
          aria-label={view.marks.map((m) => `${m.name} ${m.said}: ${m.y.toFixed(2)} minutes per smoke hour`).join("; ")}
          data={{
            datasets: [
              plain("as little loss as there may be", view.low, { borderColor: hair, borderWidth: 1.5, borderDash: [2, 3] }),
              plain("as much", view.high, { borderColor: hair, borderWidth: 1.5, borderDash: [2, 3] }),
              plain("minutes", view.curve, { borderColor: hot }),
              plain(
                "marks",
                view.marks.map((m) => ({ x: m.dose, y: m.y })),
                { showLine: false, pointRadius: 5, borderColor: ink, backgroundColor: ink },
              ),
              ...view.marks.map((m) => upright(m.name, m.dose, m.y, { borderColor: soft, borderWidth: 1, borderDash: [4, 4] })),
            ],
          }}
          options={{
            ...MANNERS,
            scales: {
              x: {
                type: "linear",
                min: 0,
                grid: { display: false },
                ticks: { color: soft, maxTicksLimit: 6, maxRotation: 0, callback: whole },
                title: { display: true, text: "smoke hours between cleans", color: soft },
              },
              y: {
                min: 0,
                max: top,
                grid: { color: hair },
                ticks: { color: soft, maxTicksLimit: 5 },
                title: { display: true, text: "min per smoke hour", color: soft },
              },
            },
            plugins: { tooltip: { enabled: false } },
          }}
        />
      </div>
      <More label="The same as a table">
        <Table
          size="small"
          pagination={false}
          rowKey="name"
          dataSource={[...view.marks]}
          columns={[
            { title: "Way", dataIndex: "name" },
            { title: "Every", dataIndex: "said" },
            { title: "Minutes per smoke hour", render: (_, m) => m.y.toFixed(2) },
          ]}
        />
      </More>
    </div>
  );
}
