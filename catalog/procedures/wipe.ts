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
      title: "Wipe the cabinet, with the cleaner on the cloth.",
      text: "Never spray into the machine: the spray drifts onto optics and into electronics.",
      surface: "painted-cabinet",
      agents: [
        ["soapy-water", "isopropyl"],
        ["damp-cloth", "dry-cloth"],
      ],
      caution: "Keep liquid away from electronics.",
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
      title: "Wipe the acrylic lid: no alcohol, no glass cleaner.",
      text: "Wipe both faces with microfibre and plastic cleaner. Alcohol and ammonia craze it, and the lid is what keeps the beam in. For scratches use plastic polish.",
      surface: "acrylic-lid",
      agents: [["plastic-cleaner", "distilled-water"], ["microfibre"]],
      service: "cleaned",
    },
    {
      id: "glass",
      minutes: 2,
      when: { lid: ["glass"] },
      title: "Wipe both faces of the glass lid.",
      text: "Spray onto the cloth, not onto the lid. A small lens wipe is used up at once on a thick coat.",
      surface: "glass-lid",
      agents: [["glass-cleaner", "lens-spray"], ["microfibre"]],
      service: "cleaned",
    },
    {
      id: "metal",
      minutes: 1,
      when: { lid: ["metal"] },
      title: "Wipe the metal lid and inspect its window.",
      text: "Use a cloth with mild soap. If the window is cracked or burnt, replace it before the next job.",
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
      title: "Wipe the control panel with a damp cloth, nothing else.",
      text: "Wring it out. Solvents take the print off and creep behind the keys.",
      surface: "control-panel",
      agents: [["damp-cloth"]],
      service: "cleaned",
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
      title: "Inspect the camera, the mark and the small windows.",
      text: "Hold the torch at an angle. A cloudy camera places engravings wrong, and dirty windows measure a wrong thickness.",
      tools: ["torch", "small inspection mirror"],
    },
    {
      id: "wipe",
      minutes: 1,
      asked: [{ step: "look", grades: [1, 3] }],
      title: "Wipe each glass once, then dry it.",
      text: "Drag a lens wipe, or a swab with a trace of alcohol, once across each glass, then a dry one. Use damp microfibre for the mark.",
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
      title: "Wipe the camera lens once.",
      text: "A cloudy camera makes engravings sit wrong and homing hunt.",
      surface: "camera-lens",
      agents: [["lens-wipe", "isopropyl"]],
    },
    {
      id: "mark",
      minutes: 1,
      when: { extra: ["camera"] },
      title: "Wipe the homing mark with damp microfibre.",
      text: "A dirty mark makes homing hunt. A lens wipe is wasted on it.",
      surface: "marks-and-sensors",
      agents: [["damp-microfibre"]],
      service: "cleaned",
    },
    {
      id: "windows",
      minutes: 1.5,
      when: { extra: ["sensor-windows"] },
      title: "Clean the two small windows under the head like a lens.",
      text: "They measure the distance to the sheet: if they are dirty, the thickness comes out wrong. Use a swab with alcohol, then a dry one. Look up with the small mirror.",
      surface: "small-window",
      agents: [["isopropyl"], ["fresh-swab"]],
      tools: ["small inspection mirror"],
      service: "cleaned",
    },
    {
      id: "contacts",
      minutes: 1,
      when: { movingHead: true },
      title: "Swab the ribbon's contacts and let them dry.",
      text: "They are where the head's ribbon plugs in. Barely damp: wet contacts short.",
      surface: "marks-and-sensors",
      agents: [["isopropyl"], ["fresh-swab"]],
      caution: "Keep it unplugged, and let it dry before the power comes on.",
    },
  ],
};
