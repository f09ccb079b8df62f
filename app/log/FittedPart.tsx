/** What a part is that was put in; later it is told how long it lived and what it cost an hour. */
import { NumberField } from "../ui/form/NumberField";
import { TextField } from "../ui/form/TextField";
import { More } from "../ui/More";

export function FittedPart({ currency }: { currency: string }) {
  return (
    <More label="What is it, and what did it cost?" open>
      <div className="fields">
        <NumberField name="price" label="Price" unit={currency || "money"} />
        <TextField name="source" label="From" maxLength={80} />
        <NumberField name="focalMm" label="Focal length, of a lens" unit="mm" />
        <TextField name="serial" label="Serial number" maxLength={60} />
        <NumberField name="usedHours" label="Used before, for" unit="h" />
      </div>
    </More>
  );
}
