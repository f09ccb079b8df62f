/** The five grades as shape, tone and word: an empty ring, a veil, a fill, dots, a cross. */
import type { GradeWord } from "#core/beam";

export const GRADE_WORDS: Readonly<Record<GradeWord, string>> = {
  clear: "crisp, nothing there",
  haze: "faint even veil",
  film: "deposit you can see",
  spots: "dots, dark centre",
  damaged: "crack, burn, chip",
};

/** The same scale on a rail, a fan or a bed. */
export const PART_WORDS: Readonly<Record<GradeWord, string>> = {
  clear: "clean, smooth",
  haze: "dust, light film",
  film: "sticky, drags, piles up",
  spots: "caked, jerks, blocked",
  damaged: "worn, bent, broken",
};

/** Drawn about the origin with radius `r`, for use inside an svg. */
export function GradeShape({ grade, r }: { grade: GradeWord | undefined; r: number }) {
  const inner = r - 1;
  if (grade === undefined) return <circle r={inner} fill="none" stroke="var(--soft)" strokeWidth="1.5" strokeDasharray="3 3" />;
  if (grade === "clear") return <circle r={inner} fill="var(--card)" stroke="var(--clear)" strokeWidth="2" />;
  if (grade === "haze") {
    return (
      <>
        <circle r={inner} fill="var(--card)" />
        <path d={`M${-inner} 0 A${inner} ${inner} 0 0 0 ${inner} 0 Z`} fill="var(--haze-fill)" />
        <circle r={inner} fill="none" stroke="var(--haze)" strokeWidth="2" />
      </>
    );
  }
  if (grade === "film") {
    return (
      <>
        <circle r={inner} fill="var(--card)" />
        <path d={`M${-inner * 0.92} ${-inner * 0.4} A${inner} ${inner} 0 1 0 ${inner * 0.92} ${-inner * 0.4} Z`} fill="var(--film-fill)" />
        <circle r={inner} fill="none" stroke="var(--film)" strokeWidth="2" />
      </>
    );
  }
  if (grade === "spots") {
    return (
      <>
        <circle r={inner} fill="var(--card)" stroke="var(--spots)" strokeWidth="2" />
        {[
          [-0.35, -0.2],
          [0.3, -0.35],
          [0.1, 0.4],
        ].map(([x, y]) => (
          <circle key={`${x}`} cx={(x as number) * r} cy={(y as number) * r} r={r * 0.17} fill="var(--spots)" />
        ))}
      </>
    );
  }
  const d = inner * 0.5;
  return (
    <>
      <circle r={inner} fill="var(--card)" stroke="var(--damaged)" strokeWidth="2" />
      <path d={`M${-d} ${-d} L${d} ${d} M${d} ${-d} L${-d} ${d}`} stroke="var(--damaged)" strokeWidth="3" />
    </>
  );
}
