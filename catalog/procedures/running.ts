/** Done with the machine whole: controller, aim, and what is left to a qualified person. */
import type { ProcedureSpec, StepSpec } from "#core/rounds";

export const controller: ProcedureSpec = {
  id: "controller",
  name: "Controller files",
  area: "running",
  station: "settings",
  steps: [
    {
      id: "list",
      minutes: 1.5,
      title: "How many jobs are stored? Delete one-offs.",
      text: "Some controllers stop at 99. Copy out what you cut again, delete the rest.",
      service: "checked",
    },
  ],
};

export const aimCheck: ProcedureSpec = {
  id: "aim-check",
  name: "Aim, a check",
  area: "running",
  station: "mirror-1",
  lowPower: true,
  steps: [
    {
      id: "marks",
      byAim: true,
      minutes: 8,
      drawing: "tape",
      title: "Near and far marks must meet.",
      text: "Packing tape on the frame over the mirror, off the glass; power 15 to 20 %. First the first mirror, then each next with the gantry near and far, the head near and far. Note what you see; correct only with Aim.",
      caution:
        "Invisible beam: panels on, lid closed for every pulse, interlock working, goggles rated for 10.6 µm. Test a scrap of the tape: some catch fire. Look at the optics afterwards: tape smoke lands on them.",
      tools: ["marker pen"],
      supplies: ["packing tape"],
      service: "checked",
      task: "aim-check",
    },
  ],
};

export const visit: ProcedureSpec = {
  id: "visit",
  name: "Preventive visit",
  area: "running",
  station: "supply",
  steps: [
    {
      id: "book",
      minutes: 5,
      title: "Leave these to a qualified person.",
      text: "High-voltage supply, anything behind a panel not marked for users, table lead screws if untrained, interlocks, a tube swap. Book a visit, on site or as a guided remote session; note its cost. Give them the list: dust in the supply, inside mirrors to be shown, everything graded spots.",
      caution: "The supply kills, also unplugged. Never bypass an interlock.",
      service: "checked",
    },
  ],
};

/** Stands for all the steps of a part behind a panel that is not for owners: none of them is theirs to do. */
export const bookedStep: StepSpec = {
  id: "booked",
  kind: "choice",
  minutes: 5,
  title: "{Part}: for the maker's service.",
  text: "It is behind a panel that is not for owners ({panel}). Book it, on site or as a guided remote session; give them what you saw and what the trace says, and note its cost. This round may stay open until it is done: the machine is not apart meanwhile. Where the maker's own manual lets you open that panel, take the mark off in the Workshop: then the steps stand here.",
  caution:
    "Opening it yourself may touch the warranty, and behind it are parts that can hurt: the maker's manual and a qualified person come first.",
  seen: [
    { id: "done", label: "they have done it" },
    {
      id: "not-yet",
      label: "not yet",
      served: false,
      leads: "Nothing is mended yet, so do not count on this part. End the round without a proof, or let it wait.",
    },
  ],
};
