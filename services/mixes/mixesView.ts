/** View model of Mixes: what is on the shelf, and the machine's own lens. */
import { curvatureMm } from "#core/beam";
import { standing } from "#core/machine";
import type { Gathered } from "../machine/gathered";

/** A lens is about this thick, and the beam at it about this wide, until its owner says otherwise. */
const THICKNESS_MM = 3;
const FOCAL_MM = 50.8;

export function mixesView(g: Gathered) {
  const lens = standing(g.trade.layout.path).find((s) => s.role === "lens");
  return {
    owned: g.trade.layout.fittings.agents,
    lens: {
      focalMm: FOCAL_MM,
      thicknessMm: THICKNESS_MM,
      beamMm: 2 * g.trade.layout.beamRadiusMm + 1,
      apertureMm: Math.min(lens?.apertureMm ?? 18, 1.8 * curvatureMm(FOCAL_MM)),
      movingHead: lens?.mount === "sliding-bore",
      wayRound: lens?.wayRound,
    },
  };
}
