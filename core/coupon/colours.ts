/** Colours that tell layers apart: steps round the wheel that leave every neighbour far away. */

const STEP_DEG = 105;

/** Hue of the layer at an index, in degrees. 24 layers get 24 hues. */
export const hueOf = (index: number): number => (index * STEP_DEG) % 360;

/** As a drawing exchange file names it: its wheel has 24 hues, from 10 on in steps of ten. */
export const wheelIndexOf = (index: number): number => 10 + 10 * Math.round(hueOf(index) / 15);

/** As the web names it: dark enough to be read on white. */
export function hexOf(index: number): string {
  const [hue, saturation, lightness] = [hueOf(index), 0.85, 0.36];
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
