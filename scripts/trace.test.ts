import { spawnSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { CaseFileError, reportOnFile } from "./traceFile";

const folder = mkdtempSync(join(tmpdir(), "clenor-trace-"));
/** Through the command itself. */
function run(content: unknown): { status: number | null; stdout: string; stderr: string } {
  const file = join(folder, "case.json");
  writeFileSync(file, typeof content === "string" ? content : JSON.stringify(content));
  return spawnSync(process.execPath, ["--import", "tsx", "scripts/trace.ts", file], { encoding: "utf8" });
}

/** The same without a process of its own. */
function said(content: unknown): string {
  const file = join(folder, "case.json");
  writeFileSync(file, typeof content === "string" ? content : JSON.stringify(content));
  try {
    return reportOnFile(file);
  } catch (error) {
    if (error instanceof CaseFileError) return `wrong: ${error.message}`;
    throw error;
  }
}

describe("trace on a case file", () => {
  it("answers in the published shape", () => {
    const { status, stdout } = run({
      machine: { preset: "three-mirror" },
      usage: {
        tubeHours: 800,
        ratedTubeHours: 3000,
        hoursSinceClean: { lens: 9 },
        seatsOpened: [{ station: "mirror-2", daysAgo: 1 }],
        daysSinceCoolantChange: 40,
      },
      opened: ["lens"],
      findings: [
        { check: "known-cut", outcome: "hangs" },
        { check: "power@tube", value: 58, sd: 2, setPercent: 100 },
      ],
      baseline: { powerW: { tube: 62, lens: 57 }, tubeCurrentMa: 22, coolantFlowLpm: 2, ductSpeedMps: 6, setPercent: 100 },
    });
    expect(status).toBe(0);
    const answer = JSON.parse(stdout) as Record<string, never> & { faults: { id: string; probability: number }[] };
    expect(Object.keys(answer)).toEqual([
      "faults",
      "stations",
      "none",
      "nothingWrong",
      "evidence",
      "suspectReadings",
      "nextChecks",
      "repair",
      "plan",
    ]);
    const p = answer.faults.map((f) => f.probability);
    expect([...p].sort((a, b) => b - a)).toEqual(p);
  });

  it("asks only what may change the plan, and never a repair twice or watts of nobody who ever read them", () => {
    const read = (content: object) => {
      return JSON.parse(said({ machine: { preset: "three-mirror" }, ...content })) as {
        nextChecks: { check: string }[];
        repair: string | null;
        plan: string[];
      };
    };
    const findings = [
      { check: "known-cut", outcome: "part-through" },
      { check: "lens-look", outcome: "spots" },
    ];
    const first = read({ findings });
    expect(first.plan[0]).toBe("clean-lens");
    expect(first.nextChecks.filter((c) => c.check.startsWith("power@"))).toEqual([]);
    const after = read({ findings: [{ check: "ladder", value: 0.8 }], usage: { hoursSinceClean: { lens: 0 } }, mended: ["clean-lens"] });
    expect(after.plan).not.toContain("clean-lens");
    const air = read({ findings: [{ check: "known-cut", outcome: "hangs" }], declined: ["air-feel"] });
    expect(air.nextChecks.map((c) => c.check)).not.toContain("air-feel");
  });

  it("takes a path of one's own", () => {
    const stations = ["tube", "window", "mirror-1", "mirror-2", "lens", "nozzle"].map((id) => ({
      id,
      role: id.replace(/-\d$/, ""),
      ...(id === "mirror-1" ? { travelMm: 500 } : {}),
    }));
    const ids = (JSON.parse(said({ machine: { stations } })) as { faults: { id: string }[] }).faults.map((f) => f.id);
    expect(ids).toContain("aim-off@2");
    expect(ids).not.toContain("aim-off@3");
  });

  it.each([
    ["{", /case\.json: not JSON at line 1, column/],
    [{ machine: { preset: "five-mirror" } }, /machine\.preset: Choose one of: three-mirror/],
    [{ machine: {} }, /machine: give a preset/],
    [{}, /machine: Still missing/],
    [
      { machine: { preset: "periscope" }, findings: [{ check: "coolant-temp", value: 22 }] },
      /findings\.0\.check: "coolant-temp" is not a check of this machine/,
    ],
    [
      { machine: { preset: "three-mirror" }, findings: [{ check: "lens-look", outcome: "foggy" }] },
      /findings\.0\.outcome: "foggy" is not an outcome of lens-look \(clear, haze/,
    ],
    [{ machine: { preset: "three-mirror" }, findings: [{ check: "power@lens", value: -4 }] }, /findings\.0\.value: must be above 0/],
    [{ machine: { preset: "three-mirror" }, findings: [{ check: "onset" }] }, /findings\.0/],
    [{ machine: { preset: "three-mirror" }, mended: ["clean-lenses"] }, /mended\.0: "clean-lenses" is not a repair/],
    [
      {
        machine: { preset: "three-mirror" },
        before: [{ repairs: ["clean-lens"], findings: [{ check: "lens-look", outcome: "purple" }] }],
      },
      /before\.0\.findings\.0\.outcome: "purple" is not an outcome of lens-look/,
    ],
    [
      { machine: { preset: "three-mirror" }, before: [{ repairs: ["polish-lens"], findings: [] }] },
      /before\.0\.repairs\.0: "polish-lens" is not a repair/,
    ],
    [{ machine: { preset: "three-mirror" }, declined: ["watts"] }, /declined\.0: "watts" is not a check/],
    [{ machine: { preset: "three-mirror" }, baseline: { powerW: { "mirror-9": 60 } } }, /baseline\.powerW: this machine has no "mirror-9"/],
    [
      {
        machine: {
          stations: [
            { id: "a", role: "mirror" },
            { id: "b", role: "mirror" },
            { id: "c", role: "mirror" },
          ],
        },
      },
      /the path has no tube/,
    ],
  ])("names what is wrong with %j", (content, message) => {
    expect(said(content)).toMatch(message);
  });

  it("names what is wrong on stderr alone and ends with 2", () => {
    const { status, stderr, stdout } = run("{");
    expect(stderr).toMatch(/not JSON at line 1/);
    expect(status).toBe(2);
    expect(stdout).toBe("");
  });
});
