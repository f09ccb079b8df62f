/** Colours that tell layers apart: the legend in grey, the rest in steps round the wheel that leave every neighbour far away. */

/** Hues of so many layers differ; no drawing has more. */
const HUES = 24;
const STEP_DEG = 105;
/** Dark enough to be read on white, and no hue of any layer. */
const LEGEND_HEX = "#5f5f5f";
/** The same grey on a drawing exchange file's wheel. */
const LEGEND_WHEEL = 8;

/** Hue of a layer that is not the legend, by its place among them, in degrees. */
const hueOf = (index: number): number => ((index % HUES) * STEP_DEG) % 360;

/** As a drawing exchange file names it: its wheel has 24 hues, from 10 on in steps of ten. Layer 0 is the legend. */
export const wheelIndexOf = (layer: number): number => (layer === 0 ? LEGEND_WHEEL : 10 + 10 * Math.round(hueOf(layer - 1) / 15));

/** As the web names it. Layer 0 is the legend. */
export function hexOf(layer: number): string {
  if (layer === 0) return LEGEND_HEX;
  const [hue, saturation, lightness] = [hueOf(layer - 1), 0.85, 0.36];
  const a = saturation * Math.min(lightness, 1 - lightness);
  const channel = (n: number) => {
    const k = (n + hue / 30) % 12;
    const value = lightness - a * Math.max(-1, Math.min(k - 3, 9 - k, 1));
    return Math.round(255 * value)
      .toString(16)
      .padStart(2, "0");
  };
  return `#${channel(0)}${channel(8)}${channel(4)}`;
}
