/** Actions that write more than one thing, and what must be there before them. */
import { readdirSync } from "node:fs";
import { join } from "node:path";
import type { RunningServer } from "../../../e2e/server";
import { form, json, newMachine, rowsOf } from "./talk";

/** What writes more than one thing: cut between any two of its parts, all of it is there or none. */
export interface Act {
  readonly name: string;
  readonly before?: (server: RunningServer) => Promise<unknown>;
  readonly run: (server: RunningServer) => Promise<Response>;
}

const LADDER: [string, string][] = [
  ["materialId", "1"],
  ["setPercent", "60"],
  ...Array.from({ length: 10 }, (_, i): [string, string][] => [
    [`speed-${i}`, String(6 + 2 * i)],
    [`end-${i}`, i < 9 ? "dropped" : "stays"],
  ]).flat(),
];
const repairRound = async (s: RunningServer) => {
  await form(s, "/larkspur/round", [
    ["part", "mirror-2"],
    ["title", "crash repair"],
    ["caseId", "3"],
    ["requestKey", "crash-repair"],
  ]);
  const [round] = rowsOf(s.folder, "SELECT id, plan FROM round WHERE status = 'open' AND title = 'crash repair'");
  const { steps } = JSON.parse(String(round?.plan)) as { steps: { id: string; kind: string; seen?: { id: string }[] }[] };
  // Every step is walked: what protects people cannot be skipped.
  await json(s, `/larkspur/round/${String(round?.id)}/answers`, {
    items: steps
      .filter((step) => step.kind !== "proof")
      .map((step) => ({
        stepId: step.id,
        answer: {
          atMs: Date.now(),
          done: true,
          ...(step.kind === "grade" ? { grade: 1 } : {}),
          ...(step.seen?.[0] ? { choice: step.seen[0].id } : {}),
        },
        requestKey: `crash-${step.id.replaceAll(/[^a-z0-9]/g, "-")}`,
      })),
  });
};
const roundOf = (s: RunningServer) => String(rowsOf(s.folder, "SELECT id FROM round WHERE title = 'crash repair'")[0]?.id);
/** All marks on one spot, so that the sitting can be ended good. */
const aimedWell = async (s: RunningServer) => {
  const at = (intent: string, fields: [string, string][], key: string) =>
    form(s, "/larkspur/aim", [["intent", intent], ...fields, ["requestKey", `crash-${key}`]]);
  await at("start", [["safe", "1"]], "start");
  const mark = (spot: string, i: number) =>
    at(
      "mark",
      [
        ["spot", spot],
        ["right", "0.1"],
        ["up", "0"],
      ],
      `${spot.replaceAll("+", "-")}-${i}`,
    );
  await mark("mirror-1", 0);
  await at(
    "turn",
    [
      ["element", "mirror-1"],
      ["screw", "A"],
      ["amount", "0.0625"],
      ["sense", "clockwise"],
    ],
    "turn",
  );
  const far = ["mirror-2", "mirror-3"];
  const spots = ["mirror-1", "mirror-2", "mirror-2+mirror-2", "mirror-3", ...far.map((f) => `mirror-3+${f}`), "mirror-3+mirror-2+mirror-3"];
  for (let i = 1; i < 5; i++) for (const spot of [...spots, "lens", "lens+mirror-2+mirror-3", "nozzle"]) await mark(spot, i);
};
const triedCase = (s: RunningServer) => String(rowsOf(s.folder, "SELECT max(id) id FROM trace_case")[0]?.id);
export const ACTS: readonly Act[] = [
  {
    name: "a good end of aiming with its case and round",
    before: aimedWell,
    run: (s) =>
      form(s, "/larkspur/aim", [
        ["intent", "finish"],
        ["power-back", "1"],
        ["requestKey", "crash-act"],
      ]),
  },
  {
    name: "a machine with its material and hours",
    run: (s) => form(s, "/start", newMachine("Crash", "crash-act")),
  },
  {
    name: "a case with its sign's findings",
    run: (s) =>
      form(s, "/teasel/trace", [
        ["sign", "flame"],
        ["since", "0"],
        ["requestKey", "crash-act"],
      ]),
  },
  {
    name: "five answers at once",
    before: repairRound,
    run: (s) =>
      json(s, `/larkspur/round/${roundOf(s)}/answers`, {
        items: [1, 2, 3, 4, 5].map((i) => ({
          stepId: "mirror-2.found",
          answer: { atMs: Date.now() + i, note: `n${i}` },
          requestKey: `crash-act-${i}`,
        })),
      }),
  },
  {
    name: "a repair round and its case",
    before: repairRound,
    run: (s) => form(s, `/larkspur/round/${roundOf(s)}`, [["intent", "ladder"], ...LADDER, ["requestKey", "crash-act"]]),
  },
  {
    name: "a repair round by its repeated test",
    before: repairRound,
    run: (s) =>
      form(s, `/larkspur/round/${roundOf(s)}`, [
        ["intent", "repeat"],
        ["check", "known-cut"],
        ["outcome", "through"],
        ["requestKey", "crash-act"],
      ]),
  },
  {
    name: "a late grade to a closed round",
    before: async (s) => {
      await repairRound(s);
      await form(s, `/larkspur/round/${roundOf(s)}`, [
        ["intent", "abandon"],
        ["why", "no scrap"],
        ["requestKey", "crash-before"],
      ]);
    },
    run: (s) =>
      json(s, `/larkspur/round/${roundOf(s)}/answers`, {
        items: [{ stepId: "mirror-2.found", answer: { atMs: 1, done: true, grade: 4 }, requestKey: "crash-act-late" }],
      }),
  },
  {
    name: "a case that is opened again",
    before: (s) =>
      form(s, "/larkspur/trace/3", [
        ["intent", "close"],
        ["why", "settled by itself"],
      ]),
    run: (s) => form(s, "/larkspur/trace/3", [["intent", "reopen"]]),
  },
  {
    name: "a part that was tried and stays in",
    before: async (s) => {
      await form(s, "/teasel/trace", [
        ["sign", "suddenly-weaker"],
        ["since", "0"],
        ["requestKey", "crash-tried"],
      ]);
      for (const [check, outcome] of [
        ["lens-look", "spots"],
        ["lens-swap", "cuts-now"],
      ] as const)
        await form(s, `/teasel/trace/${triedCase(s)}`, [
          ["check", check],
          ["outcome", outcome],
          ["requestKey", `crash-${check}`],
        ]);
    },
    run: (s) => form(s, `/teasel/trace/${triedCase(s)}`, [["intent", "tried"]]),
  },
  {
    name: "going back to a copy",
    before: async (s) => {
      await form(s, "/copies", [["intent", "backup"]]);
      await form(s, "/teasel/log", [
        ["kind", "note"],
        ["note", "written after the copy"],
        ["requestKey", "crash-after-copy"],
      ]);
    },
    run: (s) =>
      form(s, "/copies", [
        ["intent", "restore-copy"],
        ["copy", `here/${readdirSync(join(s.folder, "copies")).find((name) => name.startsWith("copy-")) ?? ""}`],
      ]),
  },
];
