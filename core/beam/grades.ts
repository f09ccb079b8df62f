/** One scale for every optic, rail and fan; an owner sees the word, the number is for sums and storage. */
export const GRADES = ["clear", "haze", "film", "spots", "damaged"] as const;
export type GradeWord = (typeof GRADES)[number];
/** 0 clear, 1 haze, 2 film, 3 spots, 4 damaged. */
export type Grade = 0 | 1 | 2 | 3 | 4;

/** Share of the light (0..1) an optic of each grade takes on top of its nominal loss. Starting values. */
export const GRADE_LOSS: Readonly<Record<GradeWord, number>> = {
  clear: 0,
  haze: 0.02,
  film: 0.08,
  spots: 0.18,
  damaged: 0.35,
};

/** Loss by grade in ln power (>= 0) with its standard deviation, about a third of the loss and never below 0.005. */
export function gradeLogLoss(grade: GradeWord): { mean: number; sd: number } {
  const mean = -Math.log(1 - GRADE_LOSS[grade]);
  return { mean, sd: Math.max(0.005, mean / 3) };
}

/** A clear optic may still have lost a little. */
const CLEAR_LOSS = { mean: 0.004, sd: 0.012 } as const;
/** What two eyes may differ by, in ln power. */
const EYE_SD = 0.02;

/** What a look says of one optic's loss in ln power, clear included, as far as eyes can tell. */
export function lookLogLoss(grade: GradeWord): { mean: number; sd: number } {
  const { mean, sd } = grade === "clear" ? CLEAR_LOSS : gradeLogLoss(grade);
  return { mean, sd: Math.hypot(sd, EYE_SD) };
}

export function gradeWord(grade: Grade): GradeWord {
  return GRADES[grade];
}
