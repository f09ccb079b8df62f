/** Everything known of one station: what it is, how it is held and reached, which way round it goes. */
import { useRef, useState } from "react";
import { Form } from "react-router";
import { COATINGS, MOUNTS, type PathStation } from "#core/machine";
import { NumberField, SelectField, TextField, Tick } from "../../ui/fields";
import { sendPhoto, shrinkPhoto } from "../../ui/photos";
import { Changed, type Stale } from "./Changed";
import { COATING_WORDS, MOUNT_WORDS } from "./words";

export function StationForm({
  station,
  nominalPercent,
  madeFrom,
  stale,
  errors,
  typed,
}: {
  station: PathStation;
  /** What a clean one of its role passes, when the owner says nothing. */
  nominalPercent: string;
  /** State of the station this form was made from. */
  madeFrom: string;
  stale: Stale | undefined;
  errors: Readonly<Record<string, string>>;
  typed: Readonly<Record<string, string>>;
}) {
  const text = (name: keyof PathStation) => typed[name] ?? (station[name] === undefined ? "" : String(station[name]));
  const optic = station.role !== "nozzle" && station.role !== "tube";
  return (
    <div className="stack" key={station.id}>
      <Form method="post" className="card strong stack" preventScrollReset>
        <input type="hidden" name="intent" value="station" />
        <input type="hidden" name="madeFrom" value={madeFrom} />
        <input type="hidden" name="station" value={station.id} />
        <TextField name="name" label="Name" defaultValue={text("name")} error={errors.name} />
        <div className="fields">
          {optic ? (
            <SelectField
              name="coating"
              label="Made of"
              options={COATINGS.map((c) => ({ value: c, label: COATING_WORDS[c] }))}
              defaultValue={text("coating")}
            />
          ) : (
            <input type="hidden" name="coating" value={station.coating} />
          )}
          <SelectField
            name="mount"
            label="Held by"
            options={MOUNTS.map((m) => ({ value: m, label: MOUNT_WORDS[m] }))}
            defaultValue={text("mount")}
            hint={station.role === "mirror" ? "Decides whether it is cleaned in place or taken out." : undefined}
          />
        </div>
        <div className="fields three">
          <NumberField
            name="apertureMm"
            label={station.role === "nozzle" ? "Bore" : "Clear aperture"}
            unit="mm"
            defaultValue={text("apertureMm")}
            error={errors.apertureMm}
          />
          {station.role === "tube" ? null : (
            <>
              <NumberField name="distanceMm" label="To the next" unit="mm" defaultValue={text("distanceMm")} error={errors.distanceMm} />
              <NumberField
                name="travelMm"
                label="and with travel, up to"
                unit="mm"
                defaultValue={text("travelMm")}
                error={errors.travelMm}
              />
            </>
          )}
        </div>
        {optic ? (
          <div className="fields three">
            <NumberField
              name="transmissionPercent"
              label="Passes when clean"
              unit="%"
              defaultValue={typed.transmissionPercent ?? (station.transmission === undefined ? "" : String(100 * station.transmission))}
              error={errors.transmissionPercent}
              hint={`empty: ${nominalPercent} %`}
            />
            <NumberField name="spares" label="Spares in stock" unit="pcs" defaultValue={text("spares")} error={errors.spares} />
          </div>
        ) : null}
        <div className="fields">
          <TextField
            name="panel"
            label="Behind panel"
            defaultValue={text("panel")}
            error={errors.panel}
            hint="parts behind one panel are done together"
          />
          <TextField name="keys" label="Key" defaultValue={text("keys")} error={errors.keys} />
          <TextField
            name="gantry"
            label="Gantry, head or table must stand"
            defaultValue={text("gantry")}
            error={errors.gantry}
            hint="jogged there before the power goes off"
          />
          <TextField
            name="toolPlace"
            label="Its gauge, tool or key is kept"
            defaultValue={text("toolPlace")}
            error={errors.toolPlace}
            hint="shown where it is needed"
          />
        </div>
        <div className="row">
          <Tick name="enclosed" label="In a housing of its own" defaultChecked={station.enclosed === true} />
          <Tick name="warranty" label="Panel not meant for owners (warranty)" defaultChecked={station.warranty === true} />
        </div>
        <TextField
          name="wayRound"
          label="Which way round"
          defaultValue={text("wayRound")}
          error={errors.wayRound}
          placeholder="notch at lower left, stamp up, arrow in"
        />
        <WayPhoto initial={station.wayRoundPhoto} error={errors.wayRoundPhoto} />
        <Changed stale={stale} />
        <button type="submit" className="button primary" style={{ width: "fit-content" }}>
          Save {station.name}
        </button>
      </Form>
      <Form method="post" preventScrollReset>
        <input type="hidden" name="intent" value="remove" />
        <button type="submit" name="station" value={station.id} className="button quiet">
          Take {station.name} off the path
        </button>
      </Form>
    </div>
  );
}

function WayPhoto({ initial, error }: { initial: string | undefined; error: string | undefined }) {
  const [hash, setHash] = useState(initial ?? "");
  const [problem, setProblem] = useState(error);
  const [busy, setBusy] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const take = async (picked: File) => {
    setBusy(true);
    setProblem(undefined);
    try {
      const answer = await sendPhoto(await shrinkPhoto(picked));
      if ("hash" in answer) setHash(answer.hash);
      else setProblem(answer.problem);
    } catch (e) {
      setProblem(e instanceof Error && !(e instanceof TypeError) ? e.message : "No network: the photo was not sent.");
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="row">
      <input type="hidden" name="wayRoundPhoto" value={hash} />
      {hash ? <img src={`/photos/${hash}`} alt="The right way round" className="way-thumb" /> : null}
      <button type="button" className="button" onClick={() => file.current?.click()} disabled={busy}>
        {busy ? "Sending…" : hash ? "Another photo" : "Photo of the way round"}
      </button>
      {hash ? (
        <button type="button" className="button quiet" onClick={() => setHash("")}>
          Without photo
        </button>
      ) : null}
      <input
        ref={file}
        type="file"
        accept="image/*"
        className="sr"
        tabIndex={-1}
        aria-label="Photo of the way round"
        onChange={(e) => {
          const picked = e.target.files?.[0];
          if (picked) void take(picked);
          e.target.value = "";
        }}
      />
      {problem ? (
        <span className="hot" role="alert">
          {problem}
        </span>
      ) : null}
    </div>
  );
}
