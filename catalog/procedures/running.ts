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
      title: "How many jobs are stored? Delete the one-offs.",
      text: "Some controllers stop at 99. Copy out what you cut again, and delete the rest.",
      service: "checked",
    },
  ],
};

export const aimCheck: ProcedureSpec = {
  id: "aim-check",
  name: "Alignment, a check",
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
      text: "Put packing tape on the frame over the mirror, off the glass. Set the power to 15 to 20 %. Start with the first mirror, then go on to the next with the gantry near and far, then with the head near and far. Note what you see. Turn screws only with Alignment.",
      caution:
        "The beam is invisible. Panels on, lid shut for every pulse, interlock working, goggles rated for 10.6 µm. Try a scrap of the tape first: some tapes catch fire. Inspect the optics afterwards: tape smoke lands on them.",
      tools: ["marker pen"],
      supplies: ["packing tape"],
      gear: ["goggles rated for 10.6 µm"],
      needs: { fires: true },
      leaves: { limit: "low" },
      service: "checked",
      task: "aim-check",
    },
  ],
};

export const visit: ProcedureSpec = {
  id: "visit",
  name: "Preventive visit",
  area: "running",
  power: "any",
  station: "supply",
  steps: [
    {
      id: "book",
      minutes: 5,
      title: "Leave these to a qualified person.",
      text: "The high-voltage power supply, anything behind a panel not marked for users, the table's lead screws if you are untrained, interlocks, a tube swap. Book a visit, on site or as a guided remote session, and note its cost. Give them the list: dust in the power supply, inside mirrors to be shown, everything with spots.",
      caution: "The power supply kills, even unplugged. Never bypass an interlock.",
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
  text: "It is behind a panel that is not for owners ({panel}). The maker's service or a qualified person may open it: book them, on site or as a guided remote session. Give them what you saw and what the case says, and note the cost. Keep this round open until it is done: the machine is not apart meanwhile. If the maker's own manual lets you open that panel, take the mark off in the Workshop: then the steps stand here.",
  caution:
    "Opening it yourself may affect your warranty, and parts behind it can hurt you. The maker's manual and a qualified person come first.",
  seen: [
    { id: "done", label: "they have done it" },
    {
      id: "not-yet",
      label: "not yet",
      served: false,
      stops: "round",
      leads: "Nothing is repaired yet, so do not count on this part. End the round without a final test, or keep it open.",
    },
  ],
};
