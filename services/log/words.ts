/** How a cut ended and what was done to a part, in the owner's words. */
import type { CouponForm } from "#core/coupon";
import type { BedPattern } from "#core/cuts";
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
  checked: "inspected",
  "taken-out": "taken out and left out",
  "put-back": "put back",
};
/** What can be entered by hand, as it is asked. */
export const DONE_CHOICES = (["cleaned", "replaced", "seat-opened", "taken-out", "put-back", "aimed", "checked", "adjusted"] as const).map(
  (value) => ({
    value,
    label: value === "adjusted" ? "adjusted or greased" : SERVICE_WORDS[value],
  }),
);

/** What money or minutes went to. */
export const COST_WORDS: { readonly [W in EventPayload["cost"]["what"]]: string } = {
  part: "a part",
  supplies: "supplies",
  service: "a service by others",
  spoiled: "spoiled work",
  waiting: "waiting, or a weak day",
  other: "something else",
};

export const PATTERN_WORDS: { readonly [P in BedPattern]: string } = {
  even: "even all over the bed",
  "falls-with-distance": "weaker the longer the beam's way",
  "one-side": "weaker towards one side",
  "one-corner": "weak in one corner",
  patchy: "weak in patches",
};

/** Test files: what they are called, what they tell, and what is done with them. */
export const COUPON_WORDS: { readonly [F in CouponForm]: { readonly name: string; readonly tells: string; readonly how: string } } = {
  ladder: {
    name: "Speed ladder",
    tells: "How strong is the beam, without a meter?",
    how: "Focus as always, then cut all squares in one go. Push no square out: it must fall by itself.",
  },
  shapes: {
    name: "Square and circle",
    tells: "Does your usual setting drop, and how wide is the cut?",
    how: "Measure the square that fell: what is missing of its size is the width of the cut.",
  },
  "bed-map": {
    name: "Bed map",
    tells: "Is the beam as strong in every corner?",
    how: "One sheet in each corner and one in the middle, all from one stack; the file is as large as the bed and its top is the back.",
  },
  ramp: {
    name: "Focus ramp",
    tells: "At which height is the beam finest?",
    how: "Prop the right end of the sheet up by the rise, set the focus at the middle line, cut all lines.",
  },
  block: {
    name: "Engraved block",
    tells: "Do axes and belts keep their lines?",
    how: "Engrave it to and fro, then look along both sides.",
  },
  rings: {
    name: "Alignment rings",
    tells: "How far off the middle does the beam land?",
    how: "Print at full size, cut one out, lay it over the frame of the part with tape on it, off the glass.",
  },
};

export const PURPOSE_WORDS: { readonly [P in EventPayload["setting"]["purpose"]]: string } = {
  cut: "cut",
  score: "score",
  engrave: "engrave",
};
