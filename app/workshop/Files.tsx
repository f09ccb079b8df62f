/** Everything as files: out in open formats, in after a look, copies of the whole and back to one. */
import { Button } from "antd";
import { useState } from "react";
import { Form } from "react-router";
import { Block } from "../ui/Block";
import { Copies } from "../ui/Copies";
import { FormProblem, Submit } from "../ui/form/Posted";
import { SelectField } from "../ui/form/SelectField";
import { Fields, type FormState } from "../ui/form/state";
import { TextField } from "../ui/form/TextField";
import { TakeIn } from "../ui/TakeIn";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];

export function Files({ d, answer }: { d: Loaded; answer: FormState | undefined }) {
  const [kind, setKind] = useState(d.tables[0]?.value ?? "job");
  return (
    <div className="stack loose">
      <Fields state={answer}>
        <FormProblem />
      </Fields>
      <Block strong>
        <h2 className="card-title">Out: it is all yours</h2>
        <div className="row">
          <Button type="primary" href="/exchange/workshop.json" download>
            Everything, as JSON
          </Button>
          <Button href="/exchange/photos.zip" download>
            The photos, as ZIP
          </Button>
        </div>
        <div className="row top">
          <Fields>
            <div className="wide-field">
              <SelectField name="table" label={`A table of ${d.name}'s log`} options={d.tables} defaultValue={kind} onChange={setKind} />
            </div>
          </Fields>
          <Button className="beside-field" href={`/${d.slug}/exchange/table/${kind}.csv`} download>
            As CSV
          </Button>
        </div>
        <p className="soft small">
          Columns: {d.headings[kind]?.join(", ")}. Every heading has its unit; times are UTC. What the file holds is described in
          docs/files.md.
        </p>
      </Block>
      <Block strong label="Take a file in">
        <h2 className="card-title">In: a look first</h2>
        <p>A workshop's JSON, a table of one kind as CSV for {d.name}, or an archive of photos. All of it is taken in, or nothing.</p>
        <TakeIn slug={d.slug} />
      </Block>
      <Block>
        <h2 className="card-title">Copies on this computer</h2>
        <Form method="post" preventScrollReset>
          <input type="hidden" name="intent" value="backup" />
          <Submit>Make a copy now</Submit>
        </Form>
        <p className="soft">
          One is made each day, and before every new version of the database. Seven days and eight weeks of the daily ones are kept.
        </p>
        <Copies list={d.copies.list} />
        <Form method="post" preventScrollReset>
          <input type="hidden" name="intent" value="copies-folder" />
          <Fields state={answer}>
            <div className="row top">
              <div className="wide-field">
                <TextField
                  name="folder"
                  label="Keep the daily copies in this folder as well"
                  hint="a stick or a share of this computer: /media/stick/clenor. Empty: beside the data only"
                  defaultValue={d.copies.folder}
                />
              </div>
              <Submit className="beside-field">Save the folder</Submit>
            </div>
          </Fields>
        </Form>
        <p className="soft small">Photos are not in a copy: they are never changed, only added to.</p>
      </Block>
    </div>
  );
}
