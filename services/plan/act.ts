/** The forms of Plan: each reads its fields and is carried out whole or not at all. */
import type { Services } from "../context";
import type { FormReader } from "../forms/fields";
import type { Gathered } from "../machine/gathered";
import { countByForm } from "../supplies/shelf";
import { daysByForm, followByForm } from "./choices";
import { openFeed, revokeFeed } from "./feed";
import { letGo, type MoveAnswer, moveRound } from "./move";

export type PlanActed = { readonly said: string } | { readonly errors: Readonly<Record<string, string>> };

const asActed = (answer: MoveAnswer): PlanActed => ("said" in answer ? answer : { errors: { to: answer.problem } });

export async function actOnPlan(services: Services, g: Gathered, reader: FormReader): Promise<PlanActed> {
  switch (reader.text("intent")) {
    case "move":
      return asActed(await moveRound(services, g, reader.text("from") ?? "", reader.text("to") ?? ""));
    case "let-go":
      return asActed(await letGo(services, g, reader.text("date") ?? ""));
    case "follow":
      return followByForm(services, g, reader);
    case "days":
      return daysByForm(services, g, reader);
    case "feed":
      await openFeed(services, g.machine.id);
      return { said: "The address is made. Whoever has it can read this plan, and nothing else." };
    case "revoke":
      await revokeFeed(services, g.machine.id);
      return { said: "Revoked: that address reads nothing any more." };
    case "count":
      return countByForm(services, reader);
    default:
      return { errors: { "": "This form is not known here." } };
  }
}
