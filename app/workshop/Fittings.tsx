/** What a machine has besides its path, and how its owner wants to keep it; what stands on the shelf. */
import { BED_CORNERS } from "#core/cuts";
import { BEARINGS, BEDS, COOLINGS, COUNTERS, EXHAUSTS, EXTRAS, LIDS, OPTICS_ORDERS, ROOMS, SCHOOLS, TUBES } from "#core/machine";
import { EXTRA_WORDS, FITTING_WORDS, FROST_WORDS } from "#services/workshop/words";
import { Block } from "../ui/Block";
import { Tick } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { SelectField } from "../ui/form/SelectField";
import { TextField } from "../ui/form/TextField";
import type { Route } from "./+types/route";
import { EditForm, type EditState } from "./EditForm";

type Loaded = Route.ComponentProps["loaderData"];

export function Fittings({ d, state }: { d: Loaded; state: EditState }) {
  const choose = <K extends keyof typeof FITTING_WORDS>(
    name: K,
    label: string,
    values: readonly (keyof (typeof FITTING_WORDS)[K] & string)[],
  ) => (
    <SelectField
      name={name}
      label={label}
      options={values.map((v) => ({ value: v, label: String(FITTING_WORDS[name][v]) }))}
      defaultValue={String(d.fittings[name])}
    />
  );
  return (
    <Block strong>
      <EditForm intent="fittings" state={state} save="Save fittings">
        <div className="fields">
          {choose("bearing", "Rails and bearings", BEARINGS)}
          {choose("tube", "Kind of tube", TUBES)}
          {choose("cooling", "Cooling", COOLINGS)}
          <SelectField
            name="frostMonth"
            label="First frost in the room"
            options={Object.entries(FROST_WORDS).map(([value, label]) => ({ value, label }))}
            defaultValue={String(d.fittings.frostMonth ?? "")}
          />
        </div>
        <div className="fields">
          {choose("lid", "Lid", LIDS)}
          {choose("bed", "Bed", BEDS)}
          <NumberField name="bedWidthMm" label="Width of the bed" unit="mm" defaultValue={sizeOf(d.fittings.bedWidthMm)} />
          <NumberField name="bedDepthMm" label="Depth of the bed" unit="mm" defaultValue={sizeOf(d.fittings.bedDepthMm)} />
          {choose("beamCorner", "The beam comes in at", BED_CORNERS)}
        </div>
        <div className="fields">
          {choose("room", "The room", ROOMS)}
          {choose("exhaust", "Exhaust, at the cut", EXHAUSTS)}
          {choose("counter", "Hours", COUNTERS)}
        </div>
        <div className="fields">
          {choose("school", "How often", SCHOOLS)}
          {choose("opticsOrder", "Order of the optics", OPTICS_ORDERS)}
        </div>
        <TextField
          name="manual"
          label="Maker's manual"
          hint="A link, or where it lies. Rounds and the emergency card show it."
          defaultValue={d.fittings.manual}
          maxLength={300}
        />
        <fieldset className="parts">
          <legend className="label-line">It has</legend>
          {EXTRAS.map((e) => (
            <Tick key={e} name="extra" value={e} label={EXTRA_WORDS[e]} defaultChecked={d.fittings.extras.includes(e)} />
          ))}
        </fieldset>
      </EditForm>
    </Block>
  );
}

const sizeOf = (mm: number | undefined) => (mm === undefined ? undefined : String(mm));

const SHELF_GROUPS = [
  { title: "Liquids", kinds: ["liquid", "powder"] },
  { title: "Cloths and swabs", kinds: ["cloth"] },
  { title: "Air, brushes, tools", kinds: ["air", "tool"] },
  { title: "Lubricants", kinds: ["lubricant"] },
] as const;

export function Shelf({ d, state }: { d: Loaded; state: EditState }) {
  return (
    <Block strong>
      <EditForm intent="shelf" state={state} save="Save the shelf">
        <p className="soft">
          {d.shelfKnown
            ? "A round takes what you have, as far as it may touch the part, and says what is missing."
            : "Tick what you have. Until then every round names the agent that does it best."}
        </p>
        {SHELF_GROUPS.map((group) => (
          <fieldset className="parts" key={group.title}>
            <legend className="label-line">{group.title}</legend>
            {d.shelf
              .filter((a) => (group.kinds as readonly string[]).includes(a.kind))
              .map((a) => (
                <Tick key={a.id} name="agent" value={a.id} label={a.name} defaultChecked={a.owned} />
              ))}
          </fieldset>
        ))}
      </EditForm>
    </Block>
  );
}
