/**
 * Machine-tool enamel, the one table of colours: pale green-grey ground, dark green bar, near-white cards with hairlines, one hot colour.
 * Ant Design's parts and our own drawings take them from here; another palette of the same names is another theme.
 */
const light = {
  ground: "#e6ebe5",
  rail: "#dde4dd",
  bar: "#22352d",
  card: "#fafcfa",
  alt: "#eef2ee",
  /** A sheet of material on the bench. */
  sheet: "#f0e9d8",
  ink: "#16211c",
  soft: "#4b5a52",
  faint: "#66756c",
  line: "#bcc7bf",
  hair: "#cfd8d1",
  /** The beam, and what is urgent. */
  hot: "#e2371c",
  hotFill: "#d93217",
  hotFillOver: "#c22b12",
  hotWord: "#b0270f",
  hotPale: "#f1b3a6",
  onDark: "#fafcfa",
  onDarkSoft: "#d3dcd5",
  onDarkLine: "#8ea297",
  onDarkHot: "#ff6a4d",
  error: "#9e2412",
  warning: "#8a5a00",
  /** Grades, each with a shape of its own beside its colour. */
  clear: "#17705f",
  haze: "#6f6a1d",
  hazeFill: "#c9c98e",
  film: "#a35f00",
  filmFill: "#c27a10",
  spots: "#a3341d",
  damaged: "#6b1230",
  veil: "rgba(22, 33, 28, 0.18)",
  shadow: "rgba(22, 33, 28, 0.16)",
} as const;

export type Palette = { readonly [Name in keyof typeof light]: string };

/** The same workshop by night. */
const dark: Palette = {
  ...light,
  ground: "#131a16",
  rail: "#19221d",
  bar: "#0c110e",
  card: "#1e2823",
  alt: "#243029",
  sheet: "#3a3427",
  ink: "#eef3ef",
  soft: "#b3c1b8",
  faint: "#93a299",
  line: "#42514a",
  hair: "#33403a",
  hot: "#ff5a3c",
  hotWord: "#ff8d76",
  hotPale: "#7c3325",
  error: "#ff8d76",
  warning: "#e0b04a",
  clear: "#58c2ab",
  haze: "#cfca7a",
  film: "#e8a54a",
  spots: "#f0836b",
  damaged: "#f08aac",
};

export const palettes = { light, dark } as const;

const variable = (name: string) => `--${name.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)}`;

/**
 * The palettes as custom properties, for our own style sheet and drawings: as the device wishes, or by the look chosen on it
 * (`data-look`); print is always light. A browser that does not know of two looks has the light one.
 */
export function variablesOf({ light, dark }: typeof palettes): string {
  const all = (of: (name: keyof Palette) => string) =>
    (Object.keys(light) as (keyof Palette)[]).map((name) => `${variable(name)}:${of(name)}`).join(";");
  return [
    `:root{color-scheme:light;${all((name) => light[name])}}`,
    "@supports (color:light-dark(red,red)){",
    `:root{color-scheme:light dark;${all((name) => (light[name] === dark[name] ? light[name] : `light-dark(${light[name]},${dark[name]})`))}}`,
    ":root[data-look=light]{color-scheme:light}:root[data-look=dark]{color-scheme:dark}",
    "@media print{:root,:root[data-look=dark]{color-scheme:light}}}",
  ].join("");
}
