/** What else can be told of a cut; most cuts are kept without it. */
import { Choices } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { PhotoField } from "../ui/form/PhotoField";
import { More } from "../ui/More";

const wordsOf = (words: readonly string[]) => words.map((value) => ({ value, label: value }));

export function CutExtras() {
  return (
    <More label="Passes, depth, width, edge, engraving, a photo">
      <div className="stack">
        <div className="fields">
          <NumberField name="passes" label="Passes" unit="times" hint="one where left empty" />
          <NumberField name="depthMm" label="Depth, if not through" unit="mm" />
          <NumberField name="kerfMm" label="Width of the cut" unit="mm" />
        </div>
        <Choices name="edge" label="Edge" options={wordsOf(["clean", "brown", "charred"])} />
        <Choices name="engraving" label="Engraving" options={wordsOf(["crisp", "blurred", "faint"])} />
        <PhotoField name="photo" label="Add a photo" alt="The cut" />
      </div>
    </More>
  );
}
