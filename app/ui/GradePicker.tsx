/** Five grades in glove size; the number keys 1 to 5 pick them. */
import "./grades.css";
import { GRADES, type Grade } from "#core/beam";
import { WEAR_GRADES } from "#core/rounds";
import { GRADE_WORDS, GradeShape, PART_WORDS } from "./GradeMark";

export function GradePicker({
  label,
  value,
  onPick,
  optic,
}: {
  label: string;
  value: Grade | undefined;
  onPick: (grade: Grade) => void;
  /** An optic, or a rail, fan or bed: the same scale in other words. */
  optic: boolean;
}) {
  const words = optic ? GRADE_WORDS : PART_WORDS;
  return (
    <div>
      <p className="small-title" id="grade-label">
        {label}
      </p>
      <div className="grades" role="radiogroup" aria-labelledby="grade-label">
        {GRADES.map((word, i) => (
          // Native radios would save every grade an arrow key passes; here a key picks one grade and saves it.
          // biome-ignore lint/a11y/useSemanticElements: see above
          <button key={word} type="button" className="grade" role="radio" aria-checked={value === i} onClick={() => onPick(i as Grade)}>
            <svg width="44" height="44" viewBox="-22 -22 44 44" aria-hidden="true">
              <circle r="20" fill="none" stroke="var(--line)" strokeWidth="3" />
              <GradeShape grade={word} r={16} />
            </svg>
            <b>{optic ? word : WEAR_GRADES[i]}</b>
            <span className="small soft">{words[word]}</span>
            <kbd>{i + 1}</kbd>
          </button>
        ))}
      </div>
    </div>
  );
}
