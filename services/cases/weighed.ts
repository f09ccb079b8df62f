/** An open case weighed by all that is known of its machine now. */
import type { TraceAnswer } from "#core/trace";
import type { TraceCase } from "#store/cases";
import type { Services } from "../context";
import { standingFindings } from "../machine/gather";
import type { Gathered } from "../machine/gathered";
import { answered } from "./answered";
import { caseFindings, traceInput } from "./caseInput";

export const weighed = async (services: Services, g: Gathered, c: TraceCase): Promise<TraceAnswer> =>
  answered(services, g.trade.model, traceInput(g, c, caseFindings(g, c, await standingFindings(services, c.id))), c.id);
