/** Answers of a round, by themselves: devices send what was answered and fetch what others answered. */
import { data } from "react-router";
import { nestsTooDeep } from "#services/exchange/places";
import { recordId } from "#services/forms/fields";
import { keepAnswers, readItems, roundState } from "#services/rounds/answers";
import { isTrouble } from "#services/trouble";
import { asAnswer, reading } from "../server/reading";
import type { Route } from "./+types/answers";

export const loader = reading(({ params, context }: Route.LoaderArgs) => roundState(context, params.machine, recordId(params.roundId)));

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const text = await request.text().catch(() => "");
  const items = nestsTooDeep(text) ? undefined : readItems(jsonOf(text));
  if (!items) return data({ problem: "The answers cannot be read." }, { status: 400 });
  try {
    const told = await keepAnswers(context, params.machine, recordId(params.roundId), items);
    return data(told, { status: told.refused.length > 0 && told.kept.length === 0 ? 400 : 200 });
  } catch (error) {
    // The device keeps its answers and sends them again.
    if (isTrouble(error)) return data({ problem: error.message }, { status: 503 });
    return asAnswer(error);
  }
}
