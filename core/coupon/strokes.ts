/** Letters as single strokes, since a laser draws lines and a font may not be there where the file is opened. */
import type { Point } from "./types";

/** Polylines of a letter on a grid 4 wide and 6 high, y downward; each point two digits. Capitals, figures and what stands between them. */
const GLYPHS: Readonly<Record<string, string>> = {
  "0": "103041453616050110",
  "1": "112026 1636",
  "2": "01103041420646",
  "3": "004022324345361605",
  "4": "36300444",
  "5": "400002324345361605",
  "6": "3010020516364544331304",
  "7": "004016",
  "8": "103041423313020110 1304051636454433",
  "9": "1636444130100102133342",
  A: "062046 1434",
  B: "00063645443303 0030414233",
  C: "4130100105163645",
  D: "00062644422000",
  E: "40000646 0333",
  F: "400006 0333",
  G: "41301001051636454323",
  H: "0006 4046 0343",
  I: "2026 1030 1636",
  J: "4045361605",
  K: "0006 400346",
  L: "000646",
  M: "0600234046",
  N: "06004640",
  O: "103041453616050110",
  P: "06003041423303",
  Q: "103041453616050110 2446",
  R: "06003041423303 2346",
  S: "413010010213334445361605",
  T: "0040 2026",
  U: "000516364540",
  V: "002640",
  W: "0016233640",
  X: "0046 4006",
  Y: "002340 2326",
  Z: "00400646",
  "-": "1333",
  "+": "1333 2224",
  ".": "2526",
  ",": "2517",
  ":": "2122 2526",
  "=": "1232 1434",
  "/": "0640",
  "%": "0640 0010110100 3545463635",
};

const HIGH = 6;
const WIDE = 4;
const PITCH = 5.6;

/** As it can be drawn: capitals without accents, and a gap for what has no stroke. */
const drawable = (text: string): string =>
  text.normalize("NFD").replace(/\p{M}/gu, "").replaceAll("−", "-").replaceAll("×", "X").toUpperCase();

/** Width of a text in mm at a letter height in mm. */
export function textWidthMm(text: string, heightMm: number): number {
  const letters = [...drawable(text)].length;
  return letters === 0 ? 0 : ((letters * PITCH - (PITCH - WIDE)) * heightMm) / HIGH;
}

/** Polylines of a text whose top left corner is at (x, y), in mm. Letters without a stroke leave a gap. */
export function textStrokes(text: string, x: number, y: number, heightMm: number): Point[][] {
  const scale = heightMm / HIGH;
  return [...drawable(text)].flatMap((letter, i) =>
    (GLYPHS[letter] ?? "")
      .split(" ")
      .filter(Boolean)
      .map((stroke) =>
        Array.from({ length: stroke.length / 2 }, (_, k): Point => {
          const [gx, gy] = [Number(stroke[2 * k]), Number(stroke[2 * k + 1])];
          return [x + (i * PITCH + gx) * scale, y + gy * scale];
        }),
      ),
  );
}
