/** A machine's nameplate, the other machines of the workshop, and the devices that are let in. */
import { QRCode } from "antd";
import { Form, Link } from "react-router";
import { UNIT_CHOICES } from "#core/units";
import { Block } from "../ui/Block";
import { Choices, Tick } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { Submit } from "../ui/form/Posted";
import { TextField } from "../ui/form/TextField";
import { LinkButton } from "../ui/LinkButton";
import type { Route } from "./+types/route";
import { EditForm, type EditState } from "./EditForm";

type Loaded = Route.ComponentProps["loaderData"];

const KINDS: readonly (readonly [keyof typeof UNIT_CHOICES, string])[] = [
  ["length", "Lengths"],
  ["speed", "Speeds"],
  ["temperature", "Temperatures"],
  ["volume", "Volumes"],
  ["air", "Airflow"],
];

export function MachineTab({ d, state, currency, units }: { d: Loaded; state: EditState; currency: EditState; units: EditState }) {
  return (
    <div className="stack loose">
      <Block strong>
        <EditForm intent="machine" state={state} save="Save">
          <div className="fields">
            <TextField name="name" label="Name" defaultValue={d.name} />
            <NumberField name="ratedPowerW" label="Rated power" unit="W" defaultValue={d.ratedPowerW} />
            <NumberField name="ratedTubeHours" label="Rated tube life" unit="h" defaultValue={d.ratedTubeHours} />
          </div>
        </EditForm>
      </Block>
      <Block>
        <EditForm intent="currency" state={currency} save="Save the currency" primary={false}>
          <div className="fields">
            <TextField
              name="currency"
              label="Currency of the workshop"
              hint="as you write it after an amount"
              defaultValue={d.currency}
              maxLength={8}
            />
          </div>
        </EditForm>
      </Block>
      <Block>
        <h2 className="card-title">How figures are read here</h2>
        <p className="soft">Any field takes the other unit as well, typed behind the figure. What was written down stays as it is.</p>
        <EditForm intent="units" state={units} save="Save the units" primary={false}>
          <div className="fields">
            {KINDS.map(([kind, label]) => (
              <Choices
                key={kind}
                name={kind}
                label={label}
                options={UNIT_CHOICES[kind].map((u) => ({ value: u, label: u }))}
                defaultValue={d.units[kind]}
              />
            ))}
          </div>
        </EditForm>
      </Block>
      <section className="stack">
        <h2 className="small-title">Machines</h2>
        <ul className="lines">
          {d.machines.map((m) => (
            <li key={m.slug} className="between">
              <Link to={`/${m.slug}/workshop`}>{m.name}</Link>
              <span className="soft">
                {m.layout}
                {m.here ? ", this one" : ""}
              </span>
            </li>
          ))}
        </ul>
        <div className="row">
          <LinkButton to="/start">Add a machine</LinkButton>
          <LinkButton to={`/${d.slug}/workshop/label`}>A label for this machine</LinkButton>
        </div>
      </section>
    </div>
  );
}

export function Devices({ d, bench }: { d: Loaded; bench: EditState }) {
  return (
    <div className="stack loose">
      <Phones d={d} />
      <Block>
        <h2 className="card-title">Practice bench</h2>
        <p>
          An hour counter, a current meter, a chiller and a power probe, all simulated from this machine's log: to try a form with “read
          from the bench”. What they say is made up, so keep it out of a log you rely on.
        </p>
        <EditForm intent="bench" state={bench} save="Save the bench" primary={false}>
          <Tick name="bench" label="Put the practice bench at hand" defaultChecked={d.hasBench} />
        </EditForm>
      </Block>
    </div>
  );
}

function Phones({ d }: { d: Loaded }) {
  if (d.lan.length === 0) {
    return (
      <Block>
        <h2 className="card-title">Only this computer, so far.</h2>
        <p>
          To walk a round with a phone, start Clenor with <code>npm start -- --lan</code>. It asks for a passphrase, then shows an address
          and a code to point the phone's camera at.
        </p>
        <p className="soft">
          The workshop's network only: the connection is not encrypted, so use it in a network you trust and with a passphrase you use
          nowhere else.
        </p>
      </Block>
    );
  }
  return (
    <Block strong>
      <h2 className="card-title">Point a phone's camera at one of these.</h2>
      <div className="row top">
        {d.lan.map((url) => (
          <figure key={url} className="qr">
            <div role="img" aria-label={`Code for ${url}`}>
              <QRCode value={url} type="svg" size={190} bordered={false} />
            </div>
            <figcaption>{url}</figcaption>
          </figure>
        ))}
      </div>
      <p className="soft">It asks for the passphrase once per device. Use it in a network you trust: the connection is not encrypted.</p>
      <Sessions sessions={d.sessions} />
    </Block>
  );
}

function Sessions({ sessions }: { sessions: Loaded["sessions"] }) {
  return (
    <div>
      <h3 className="small-title">Devices signed in</h3>
      {sessions.length === 0 ? <p className="soft">None yet.</p> : null}
      <ul className="lines">
        {sessions.map((s) => (
          <li key={s.id} className="between">
            <span className="grow">
              <b>{s.device}</b>
              {s.here ? ", this one" : ""}{" "}
              <span className="soft">
                {s.address} · seen {s.seen} · since {s.since}
              </span>
            </span>
            <Form method="post" preventScrollReset>
              <input type="hidden" name="intent" value="end-session" />
              <Submit name="session" value={s.id} aria-label={`Sign out ${s.device}`}>
                Sign out
              </Submit>
            </Form>
          </li>
        ))}
      </ul>
    </div>
  );
}
