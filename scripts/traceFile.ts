/** A case file through the trace engine: what is wrong with it named with its place, otherwise the report. */

import { readFileSync } from "node:fs";
import { type Layout, layouts } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import type { LayoutSpec } from "#core/machine";
import { pathProblems, traceSpec } from "#core/machine";
import { type CaseFile, caseFileSchema, expandModel, type TraceInput, type TraceModel, trace } from "#core/trace";
import { check } from "#store/check";

/** What is wrong with the file, and where. */
export class CaseFileError extends Error {}

function readCase(path: string): CaseFile {
  let text: string;
  try {
    text = readFileSync(path, "utf8");
  } catch {
    throw new CaseFileError(`${path}: cannot be read`);
  }
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch (error) {
    const where = /position (\d+)/.exec(String(error));
    const before = where ? text.slice(0, Number(where[1])) : text;
    const line = before.split("\n").length;
    throw new CaseFileError(`${path}: not JSON at line ${line}, column ${before.length - before.lastIndexOf("\n")}`);
  }
  const checked = check<CaseFile>(caseFileSchema, raw);
  if (!checked.ok) {
    const lines = Object.entries(checked.errors).map(([place, message]) => `${path}: ${place || "the file"}: ${message}`);
    throw new CaseFileError(lines.join("\n"));
  }
  return checked.value;
}

function layoutOf(path: string, machine: CaseFile["machine"]): LayoutSpec {
  if (machine.preset !== undefined && machine.stations !== undefined)
    throw new CaseFileError(`${path}: machine: give a preset or stations, not both`);
  if ((machine.path ?? machine.fittings) !== undefined && machine.preset === undefined)
    throw new CaseFileError(`${path}: machine: path and fittings stand in the place of a preset's: name the preset as well`);
  if (machine.preset !== undefined) {
    const preset = layouts[machine.preset] as Layout;
    const problems = machine.path ? pathProblems(machine.path) : [];
    if (problems.length > 0) throw new CaseFileError(`${path}: machine.path: ${problems.join(" ")}`);
    return traceSpec({ ...preset, path: machine.path ?? preset.path, fittings: machine.fittings ?? preset.fittings }, INTERVAL_PLY_HOURS);
  }
  if (machine.stations === undefined)
    throw new CaseFileError(`${path}: machine: give a preset (${Object.keys(layouts).join(", ")}) or stations`);
  // A path of one's own has the systems of the commonest machine.
  const model = traceSpec(layouts["three-mirror"] as Layout, INTERVAL_PLY_HOURS);
  const stations = machine.stations.map((s) => {
    const like = model.stations.find((m) => m.role === s.role) ?? model.stations[2];
    return {
      id: s.id,
      role: s.role,
      apertureMm: s.apertureMm ?? like?.apertureMm ?? 20,
      distanceMm: s.distanceMm ?? like?.distanceMm ?? 100,
      travelMm: s.travelMm ?? 0,
    };
  });
  const ids = stations.map((s) => s.id);
  const twice = ids.find((id, i) => ids.indexOf(id) !== i);
  if (twice) throw new CaseFileError(`${path}: machine.stations: "${twice}" occurs twice`);
  for (const role of ["tube", "lens"] as const) {
    if (!stations.some((s) => s.role === role && s.id === role))
      throw new CaseFileError(`${path}: machine.stations: the path has no ${role} (a station with role and id "${role}")`);
  }
  const mirrors = stations.filter((s) => s.role === "mirror");
  mirrors.forEach((mirror, i) => {
    if (mirror.id !== `mirror-${i + 1}`)
      throw new CaseFileError(
        `${path}: machine.stations: mirrors are called mirror-1 to mirror-${mirrors.length} from the tube on, found "${mirror.id}"`,
      );
  });
  const movingMirrors = mirrors.flatMap((mirror, i) => {
    const before = stations[stations.indexOf(mirror) - 1];
    return before && before.travelMm > 0 ? [i + 1] : [];
  });
  return { ...model, id: "own", stations, movingMirrors };
}

/** Names in the file must exist on this machine; the first that does not is named with its place. */
function checkNames(path: string, file: CaseFile, model: TraceModel): void {
  const places = new Set([...model.stations.map((s) => s.id), ...model.systems]);
  const known = (place: string, id: string) => {
    if (!places.has(id)) throw new CaseFileError(`${path}: ${place}: this machine has no "${id}" (it has ${[...places].join(", ")})`);
  };
  for (const id of Object.keys(file.usage?.hoursSinceClean ?? {})) known("usage.hoursSinceClean", id);
  for (const id of Object.keys(file.usage?.smokeDoseSinceClean ?? {})) known("usage.smokeDoseSinceClean", id);
  for (const [i, seat] of (file.usage?.seatsOpened ?? []).entries()) known(`usage.seatsOpened.${i}.station`, seat.station);
  for (const [i, id] of (file.opened ?? []).entries()) known(`opened.${i}`, id);
  for (const [i, id] of (file.spares ?? []).entries()) known(`spares.${i}`, id);
  for (const id of Object.keys(file.baseline?.powerW ?? {})) known("baseline.powerW", id);
  for (const [i, id] of (file.declined ?? []).entries())
    if (!model.checks.some((c) => c.id === id)) throw new CaseFileError(`${path}: declined.${i}: "${id}" is not a check of this machine`);
  for (const [i, id] of (file.mended ?? []).entries())
    if (!model.repairs.some((r) => r.id === id)) throw new CaseFileError(`${path}: mended.${i}: "${id}" is not a repair of this machine`);
  checkFindings(path, "findings", file.findings ?? [], model);
  for (const [i, { repairs, findings }] of (file.before ?? []).entries()) {
    for (const [k, id] of repairs.entries())
      if (!model.repairs.some((r) => r.id === id))
        throw new CaseFileError(`${path}: before.${i}.repairs.${k}: "${id}" is not a repair of this machine`);
    checkFindings(path, `before.${i}.findings`, findings, model);
  }
}

/** Checks, outcomes and values of a list of findings. */
function checkFindings(path: string, place: string, findings: NonNullable<CaseFile["findings"]>, model: TraceModel): void {
  for (const [i, finding] of findings.entries()) {
    const spec = model.checks.find((c) => c.id === finding.check);
    if (!spec) throw new CaseFileError(`${path}: ${place}.${i}.check: "${finding.check}" is not a check of this machine`);
    if (finding.value === undefined && finding.outcome !== undefined && !spec.outcomes.includes(finding.outcome)) {
      throw new CaseFileError(
        `${path}: ${place}.${i}.outcome: "${finding.outcome}" is not an outcome of ${finding.check} (${spec.outcomes.join(", ") || "it takes a value"})`,
      );
    }
    const takesValue = spec.value !== undefined || (spec.kind === "loss" && spec.measures?.kind !== "cut");
    if (finding.value !== undefined && !takesValue)
      throw new CaseFileError(`${path}: ${place}.${i}.value: ${finding.check} takes an outcome (${spec.outcomes.join(", ")})`);
    if (finding.value !== undefined && spec.kind === "loss" && finding.value <= 0)
      throw new CaseFileError(`${path}: ${place}.${i}.value: must be above 0`);
  }
}

/** The report on a case file, as it is printed. Throws CaseFileError. */
export function reportOnFile(path: string): string {
  const file = readCase(path);
  const model = expandModel(layoutOf(path, file.machine), faultTemplates, checkTemplates, repairTemplates);
  checkNames(path, file, model);
  const answer = trace(model, { maxFaults: 3, ...(file as unknown as TraceInput) });
  // What changes no plan is never asked; where nothing is left to ask, the plan is what there is.
  const worthAsking = answer.nextChecks.filter((c) => c.helps);
  const report = {
    faults: answer.faults.map(({ id, probability }) => ({ id, probability })),
    stations: answer.stations.map(({ id, probability, lossPercent }) => ({ id, probability, lossPercent })),
    none: answer.none,
    nothingWrong: answer.nothingWrong,
    evidence: answer.evidence,
    suspectReadings: answer.suspectReadings,
    nextChecks: worthAsking.map((c) => ({ check: c.check, bits: c.bits, bitsPerMinute: c.bitsPerMinute, minutes: c.minutes })),
    repair: answer.repair ?? (worthAsking.length === 0 ? (answer.plan[0] ?? null) : null),
    plan: answer.plan,
  };
  return `${JSON.stringify(report, null, 2)}\n`;
}
