/** Everything known of one station: what it is, how it is held and reached, which way round it goes. */
import { Button, Popconfirm } from "antd";
import { useSubmit } from "react-router";
import { ROLE_TRAITS } from "#core/beam";
import { BEAM_DIRECTIONS, COATINGS, MOUNTS, type PathStation } from "#core/machine";
import { BEAM_WORDS, COATING_WORDS, MOUNT_WORDS, SCREW_WORDS } from "#services/workshop/words";
import { Block } from "../ui/Block";
import { Tick } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { PhotoField } from "../ui/form/PhotoField";
import { SelectField } from "../ui/form/SelectField";
import { TextField } from "../ui/form/TextField";
import { EditForm, type EditState } from "./EditForm";

interface Props {
  readonly station: PathStation;
  /** What a clean one of its role passes, when the owner says nothing. */
  readonly nominalPercent: string;
  /** Where the beam goes on from it, when the owner says nothing. */
  readonly usualBeamTo: string | undefined;
  readonly state: EditState;
}

export function StationForm({ station, nominalPercent, usualBeamTo, state }: Props) {
  return (
    <div className="stack">
      <Block strong>
        <EditForm intent="station" state={state} save={`Save ${station.name}`}>
          <input type="hidden" name="station" value={station.id} />
          <TextField name="name" label="Name" defaultValue={station.name} />
          <WhatItIs station={station} nominalPercent={nominalPercent} />
          <HowItIsAimed station={station} usual={usualBeamTo} />
          <WhereItIs station={station} />
          <TextField
            name="wayRound"
            label="Which way round"
            defaultValue={station.wayRound}
            placeholder="notch at lower left, stamp up, arrow in"
          />
          <PhotoField name="wayRoundPhoto" label="Photo of the way round" alt="The right way round" initial={station.wayRoundPhoto} />
        </EditForm>
      </Block>
      <TakeOff station={station} />
    </div>
  );
}

/** Asked before it is done; brought back in the list of what was taken off. */
function TakeOff({ station }: Pick<Props, "station">) {
  const submit = useSubmit();
  return (
    <Popconfirm
      title={`Take ${station.name} off the path?`}
      description="Rounds and traces leave it out then. It can be brought back."
      okText="Take it off"
      cancelText="Leave it"
      onConfirm={() => void submit({ intent: "remove", station: station.id }, { method: "post", preventScrollReset: true })}
    >
      <Button type="link">Take {station.name} off the path</Button>
    </Popconfirm>
  );
}

const figure = (value: number | undefined) => (value === undefined ? "" : String(value));

/** What it is made of, how it is held, its measures. */
function WhatItIs({ station, nominalPercent }: Pick<Props, "station" | "nominalPercent">) {
  const { isOptic } = ROLE_TRAITS[station.role];
  return (
    <>
      <div className="fields">
        {isOptic ? (
          <SelectField
            name="coating"
            label="Made of"
            options={COATINGS.map((c) => ({ value: c, label: COATING_WORDS[c] }))}
            defaultValue={station.coating}
          />
        ) : (
          <input type="hidden" name="coating" value={station.coating} />
        )}
        <SelectField
          name="mount"
          label="Held by"
          options={MOUNTS.map((m) => ({ value: m, label: MOUNT_WORDS[m] }))}
          defaultValue={station.mount}
          hint={station.role === "mirror" ? "Decides whether it is cleaned in place or taken out." : undefined}
        />
      </div>
      <div className="fields three">
        <NumberField
          name="apertureMm"
          label={station.role === "nozzle" ? "Bore" : "Clear aperture"}
          unit="mm"
          defaultValue={figure(station.apertureMm)}
        />
        {station.role === "tube" ? null : (
          <>
            <NumberField name="distanceMm" label="To the next" unit="mm" defaultValue={figure(station.distanceMm)} />
            <NumberField name="travelMm" label="and with travel, up to" unit="mm" defaultValue={figure(station.travelMm)} />
          </>
        )}
      </div>
      {isOptic ? (
        <div className="fields three">
          <NumberField
            name="transmissionPercent"
            label="Passes when clean"
            unit="%"
            defaultValue={station.transmission === undefined ? "" : String(100 * station.transmission)}
            hint={`empty: ${nominalPercent} %`}
          />
          <NumberField name="spares" label="Spares in stock" unit="pcs" defaultValue={figure(station.spares)} />
        </div>
      ) : null}
    </>
  );
}

/** What Aim needs: where the beam goes on, and the screws of a mirror. */
function HowItIsAimed({ station, usual }: { station: PathStation; usual: string | undefined }) {
  if (station.role !== "mirror" && station.role !== "tube") return null;
  const usually = (words: string) => [{ value: "", label: words }];
  return (
    <>
      <div className="fields">
        <SelectField
          name="beamTo"
          label="The beam goes on"
          options={[
            ...usually(`as usual${usual ? `: ${usual}` : ""}`),
            ...BEAM_DIRECTIONS.map((d) => ({ value: d, label: BEAM_WORDS[d] })),
          ]}
          defaultValue={station.beamTo ?? ""}
          hint="seen from the front; for Aim"
        />
        {station.role === "mirror" ? (
          <SelectField
            name="screwKind"
            label="Aimed by"
            options={[...usually("as such a mount usually is"), ...Object.entries(SCREW_WORDS).map(([value, label]) => ({ value, label }))]}
            defaultValue={station.screwKind ?? ""}
          />
        ) : null}
      </div>
      {station.role === "mirror" ? (
        <div className="fields three">
          <NumberField
            name="screwPitchMm"
            label="Pitch of its screws"
            unit="mm"
            defaultValue={figure(station.screwPitchMm)}
            hint="empty: 0.5"
          />
          <NumberField
            name="screwArmMm"
            label="From the pivot to a screw"
            unit="mm"
            defaultValue={figure(station.screwArmMm)}
            hint="three around it: from the middle"
          />
        </div>
      ) : null}
    </>
  );
}

/** Behind what it is, what opens that, and where its things are kept. */
function WhereItIs({ station }: { station: PathStation }) {
  return (
    <>
      <div className="fields">
        <TextField name="panel" label="Behind panel" defaultValue={station.panel} hint="parts behind one panel are done together" />
        <TextField name="keys" label="Key" defaultValue={station.keys} />
        <TextField
          name="gantry"
          label="Park gantry, head or table at"
          defaultValue={station.gantry}
          hint="jogged there before the power goes off"
        />
        <TextField
          name="comesOff"
          label={station.role === "lens" ? "How the head comes off" : "How the panel comes off"}
          defaultValue={station.comesOff}
          hint={station.role === "lens" ? "for example: elbow first, then the nozzle" : "for example: lift, then towards you"}
          maxLength={200}
        />
        <NumberField
          name="screws"
          label="Screws"
          unit=""
          defaultValue={station.screws === undefined ? undefined : String(station.screws)}
        />
        <TextField
          name="toolPlace"
          label="Where its gauge, tool or key is kept"
          defaultValue={station.toolPlace}
          hint="shown where it is needed"
        />
      </div>
      <div className="row">
        <Tick name="enclosed" label="In a housing of its own" defaultChecked={station.enclosed === true} />
        <Tick name="warranty" label="Panel not meant for owners (warranty)" defaultChecked={station.warranty === true} />
      </div>
    </>
  );
}
