/** The thread of plan.ts, from its source: for tests and development. */
import { register } from "tsx/esm/api";

register();
await import("./plan.ts");
