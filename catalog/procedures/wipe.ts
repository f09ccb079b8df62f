/** Cabinet, lid, panel, camera and the small windows that see and measure. */
import type { ProcedureSpec } from "#core/rounds";

export const cabinet: ProcedureSpec = {
  id: "cabinet",
  name: "Cabinet",
  area: "wipe",
  station: "cabinet",
  steps: [
    {
      id: "wipe",
      minutes: 3,
      title: "Wipe the cabinet, agent on the cloth.",
      text: "Never spray into the machine: it drifts onto optics and into electronics.",
      surface: "painted-cabinet",
      agents: [
        ["soapy-water", "isopropyl"],
        ["damp-cloth", "dry-cloth"],
      ],
      caution: "No liquid near electronics.",
      service: "cleaned",
    },
  ],
};

export const lid: ProcedureSpec = {
  id: "lid",
  name: "Lid",
  area: "wipe",
  station: "lid",
  steps: [
    {
      id: "acrylic",
      minutes: 2,
      when: { lid: ["acrylic"] },
      title: "Acrylic lid: no alcohol, no glass cleaner.",
      text: "Both faces, microfibre and plastic cleaner. Alcohol and ammonia craze it: the lid is what keeps the beam in. Scratches: plastic polish.",
      surface: "acrylic-lid",
      agents: [["plastic-cleaner", "distilled-water"], ["microfibre"]],
      service: "cleaned",
    },
    {
      id: "glass",
      minutes: 2,
      when: { lid: ["glass"] },
      title: "Glass lid: both faces.",
      text: "Spray on the cloth, not on the lid. Lens wipes fail on thick residue over a large area.",
      surface: "glass-lid",
      agents: [["glass-cleaner", "lens-spray"], ["microfibre"]],
      service: "cleaned",
    },
    {
      id: "metal",
      minutes: 1,
      when: { lid: ["metal"] },
      title: "Metal lid: wipe, and look at its window.",
      text: "Cloth with mild soap. A cracked or burnt window is replaced before the next job.",
      surface: "metal-lid",
      agents: [["soapy-water"], ["microfibre"]],
      service: "cleaned",
    },
  ],
};

export const panel: ProcedureSpec = {
  id: "panel",
  name: "Control panel",
  area: "wipe",
  station: "cabinet",
  steps: [
    {
      id: "wipe",
      minutes: 0.5,
      title: "Control panel: a damp cloth, nothing else.",
      text: "Wrung out. Solvents take the print off and creep behind the keys.",
      surface: "control-panel",
      agents: [["damp-cloth"]],
      service: "cleaned",
    },
  ],
};

/** At closing, where other work makes dust. */
export const dustSheet: ProcedureSpec = {
  id: "dust-sheet",
  name: "Dust sheet",
  area: "running",
  station: "cabinet",
  when: { dusty: true },
  steps: [
    {
      id: "on",
      minutes: 0.5,
      title: "Dust sheet over it at closing.",
      text: "Cold, off, nothing glows: then the sheet. Dust from the saw ends on rails and optics.",
      caution: "Never over a machine that is warm or was just cutting.",
      service: "checked",
    },
  ],
};

/** The daily's share: what the machine measures and sees by. */
export const smallGlass: ProcedureSpec = {
  id: "small-glass",
  name: "Camera and small windows",
  area: "wipe",
  station: "camera",
  when: { extra: ["camera", "sensor-windows"] },
  steps: [
    {
      id: "look",
      kind: "grade",
      phase: "as-found",
      service: "checked",
      task: "camera",
      minutes: 0.5,
      title: "Camera, mark and small windows: a look.",
      text: "Torch at an angle. Cloudy, the camera places engravings wrong; fouled, the windows measure a wrong thickness.",
      tools: ["torch", "small inspection mirror"],
    },
    {
      id: "wipe",
      minutes: 1,
      asked: [{ step: "look", grades: [1, 3] }],
      title: "One pass each, then dry.",
      text: "Lens wipe or a swab with a trace of alcohol, once across each glass; a dry one after. Damp microfibre for the mark.",
      surface: "camera-lens",
      agents: [["lens-wipe", "isopropyl"], ["fresh-swab"]],
      service: "cleaned",
      task: "camera",
    },
  ],
};

export const camera: ProcedureSpec = {
  id: "camera",
  name: "Camera, mark and sensors",
  area: "wipe",
  station: "camera",
  when: { extra: ["camera", "sensor-windows"] },
  steps: [
    {
      id: "lens",
      minutes: 1,
      when: { extra: ["camera"] },
      title: "Camera lens: one wipe.",
      text: "A cloudy camera makes engravings sit wrong and homing hunt.",
      surface: "camera-lens",
      agents: [["lens-wipe", "isopropyl"]],
    },
    {
      id: "mark",
      minutes: 1,
      when: { extra: ["camera"] },
      title: "Homing mark: damp microfibre.",
      text: "A fouled mark makes homing hunt. A lens wipe is wasted on it.",
      surface: "marks-and-sensors",
      agents: [["damp-microfibre"]],
      service: "cleaned",
    },
    {
      id: "windows",
      minutes: 1.5,
      when: { extra: ["sensor-windows"] },
      title: "Two small windows under the head: as a lens.",
      text: "They measure the distance to the sheet: fouled, thickness comes out wrong. Swab with alcohol, then dry. Look up with the small mirror.",
      surface: "small-window",
      agents: [["isopropyl"], ["fresh-swab"]],
      tools: ["small inspection mirror"],
      service: "cleaned",
    },
    {
      id: "contacts",
      minutes: 1,
      when: { movingHead: true },
      title: "Ribbon contacts: swab, and let them dry.",
      text: "Where the head's ribbon plugs in. Barely damp; wet contacts short.",
      surface: "marks-and-sensors",
      agents: [["isopropyl"], ["fresh-swab"]],
      caution: "Unplugged, and dry before power.",
    },
  ],
};
