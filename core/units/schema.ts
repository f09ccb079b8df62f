/** The shape of a workshop's choice of units, for its file and its forms. */
import { UNIT_CHOICES } from "./table";

const choice = <T extends readonly string[]>(these: T) => ({ type: "string", enum: these }) as const;

export const unitsSchema = {
  type: "object",
  properties: {
    length: choice(UNIT_CHOICES.length),
    speed: choice(UNIT_CHOICES.speed),
    temperature: choice(UNIT_CHOICES.temperature),
    volume: choice(UNIT_CHOICES.volume),
    air: choice(UNIT_CHOICES.air),
  },
  required: ["length", "speed", "temperature", "volume", "air"],
  additionalProperties: false,
} as const;
