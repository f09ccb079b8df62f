/** How a cut ended, in the owner's words. */
import type { EventPayload } from "#core/events";

type CutResult = EventPayload["cut"]["result"];

/** As it is told afterwards. */
export const CUT_WORDS: { readonly [R in CutResult]: string } = {
  through: "dropped through",
  hangs: "it hangs",
  "part-through": "part of the way",
  "surface-only": "only the surface",
};

/** As the buttons ask it, best first. */
const CUT_BUTTONS: { readonly [R in CutResult]: string } = {
  through: "through",
  hangs: "hangs",
  "part-through": "part",
  "surface-only": "surface",
};
export const CUT_CHOICES = Object.entries(CUT_BUTTONS).map(([value, label]) => ({ value, label }));
