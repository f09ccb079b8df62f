/** Names that lines of several kinds use. */
import type { Gathered } from "../../machine/gathered";
import { materialName } from "../../words";

export const materialOf = (g: Pick<Gathered, "materials">, id: number): string => materialName(g.materials.find((m) => m.id === id));

export const stationOf = (g: Pick<Gathered, "trade">, id: string): string => g.trade.layout.names[id] ?? id;
