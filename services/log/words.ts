/** How a cut ended and what was done to a part, in the owner's words. */
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

export const SERVICE_WORDS: { readonly [W in EventPayload["service"]["what"]]: string } = {
  cleaned: "cleaned",
  replaced: "replaced",
  "seat-opened": "taken out of its seat",
  aimed: "aimed",
  adjusted: "done",
  checked: "looked at",
};
/** What can be entered by hand, as it is asked. */
export const DONE_CHOICES = (["cleaned", "replaced", "seat-opened", "aimed", "checked", "adjusted"] as const).map((value) => ({
  value,
  label: value === "adjusted" ? "adjusted or greased" : SERVICE_WORDS[value],
}));
