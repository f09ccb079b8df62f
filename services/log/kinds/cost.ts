import { moneyWords, number } from "../../words";
import { COST_WORDS } from "../words";
import type { EventKindDefinition } from "./definition";

export const cost: EventKindDefinition<"cost"> = {
  name: "Cost",
  says: ({ payload: p }, g) =>
    [
      COST_WORDS[p.what],
      p.money === undefined ? "" : moneyWords(p.money, g.currency),
      p.minutes === undefined ? "" : `${number(p.minutes, 0)} min lost`,
    ]
      .filter(Boolean)
      .join(", "),
  figures: ({ payload: p }, g) => [
    ...(p.money === undefined ? [] : [{ name: "spent", value: p.money, unit: g.currency }]),
    ...(p.minutes === undefined ? [] : [{ name: "lost", value: p.minutes, unit: "min" }]),
  ],
  entry: {
    read: (reader) => {
      const money = reader.optionalNumber("money", "", "12.50");
      const minutes = reader.optionalNumber("minutes", "min", "40");
      if (money === undefined && minutes === undefined && Object.keys(reader.errors).length === 0)
        reader.errors.money = "Give what it cost, or the minutes lost.";
      return { what: reader.text("what"), money, minutes };
    },
    errorAt: (path) =>
      path === "what" ? ["what", "Say what for."] : path === "" ? ["money", "Give what it cost, or the minutes lost."] : undefined,
  },
};
