/** Opens a case by a posted form: what was noticed, and since when. */

import dayjs from "dayjs";
import type { signList } from "#catalog/subjects/index";
import { openCase } from "#store/cases";
import type { FieldErrors } from "#store/check";
import { once, rowKey } from "#store/sent";
import type { Services } from "../context";
import { type FormReader, sentAs } from "../forms/fields";
import { findMachine } from "../machine/gather";
import { type Trade, tradeOf } from "../machine/trade";
import { findingWords, signsOf } from "./words";

/** Since when, as owners know it. */
export const SINCE = [
  { days: 0, label: "today" },
  { days: 1, label: "yesterday" },
  { days: 3, label: "a few days" },
  { days: 10, label: "a week or two" },
  { days: 30, label: "longer" },
] as const;

/** A case that begins with what was seen in a round: the finding is its sign. */
function seenSign(trade: Trade, reader: FormReader) {
  const [check, outcome] = [reader.text("check"), reader.text("outcome")];
  const spec = trade.model.checks.find((c) => c.id === check);
  if (!spec || !outcome || !spec.outcomes.includes(outcome)) return undefined;
  const words = findingWords(trade, { check: spec.id, outcome });
  return {
    id: `seen ${spec.id}`,
    title: words.charAt(0).toUpperCase() + words.slice(1),
    symptom: spec.symptom ?? ("power" as const),
    findings: [{ check: spec.id, outcome }],
  };
}

/** Several signs noticed at once are one case: all they bring is found, and light that is missing is what is traced. */
function signsAsOne(signs: readonly (typeof signList)[number][]) {
  const [first, ...others] = signs;
  if (!first) return undefined;
  const lowered = others.map((s) => `${s.name.charAt(0).toLowerCase()}${s.name.slice(1)}`);
  const findings = signs.flatMap((s) => s.findings);
  return {
    id: signs.map((s) => s.id).join("+"),
    title: [first.title, ...lowered].join("; "),
    symptom: signs.some((s) => s.symptom === "power") ? ("power" as const) : first.symptom,
    // Two signs may bring the same finding; it is one.
    findings: findings.filter((f, i) => findings.findIndex((x) => x.check === f.check && x.outcome === f.outcome) === i),
  };
}

/** Signs of one case. */
const MOST_SIGNS = 6;

export async function openByForm(
  services: Services,
  slug: string,
  reader: FormReader,
): Promise<{ readonly caseId: number } | { readonly errors: FieldErrors }> {
  const { machine } = await findMachine(services, slug);
  const trade = tradeOf(machine);
  const chosen = signsOf(trade).filter((s) => reader.all("sign").includes(s.id));
  const sign = seenSign(trade, reader) ?? signsAsOne(chosen);
  const since = SINCE.find(({ days }) => String(days) === (reader.text("since") ?? "0"));
  if (!sign) return { errors: { sign: "Choose what you noticed." } };
  if (chosen.length > MOST_SIGNS) return { errors: { sign: `Choose up to ${MOST_SIGNS}: more of them are more than one case.` } };
  if (!since) return { errors: { since: "Choose since when." } };
  const known = new Set(trade.model.checks.map((c) => c.id));
  const nowMs = services.nowMs();
  const sent = sentAs(`trace ${machine.id}`, reader);
  const opened = {
    title: sign.title,
    sign: sign.id,
    symptom: sign.symptom,
    onsetMs: dayjs(nowMs).startOf("day").subtract(since.days, "day").valueOf(),
    requestKey: rowKey(sent),
    findings: sign.findings.filter((f) => known.has(f.check)),
  };
  return { caseId: await once(services.store, sent, nowMs, (tx) => openCase(tx, machine.id, opened, nowMs)) };
}
