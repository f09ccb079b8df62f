/** How an air reading was taken, wherever one is written down. */
import { Choices } from "./form/Choices";

export function AirChoices() {
  return (
    <>
      <Choices
        name="where"
        label="Read"
        options={[
          { value: "centre", label: "in the middle" },
          { value: "traverse", label: "mean of some across" },
        ]}
      />
      <Choices
        name="prefilter"
        label="Pre-filter"
        options={[
          { value: "in", label: "in its place" },
          { value: "out", label: "taken out" },
        ]}
      />
    </>
  );
}
