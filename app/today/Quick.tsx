/** What happens several times a day, entered where one stands: hours, and how the last cut went. */
import { useFetcher } from "react-router";
import { CUT_CHOICES } from "#services/log/words";
import { Block } from "../ui/Block";
import { Choices } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { RequestKey, Submit } from "../ui/form/Posted";
import { SelectField } from "../ui/form/SelectField";
import { Fields } from "../ui/form/state";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];

interface Saved {
  readonly saved?: string;
  readonly ids?: readonly number[];
  readonly errors?: Record<string, string>;
  readonly typed?: Record<string, string>;
  readonly ask?: string;
  readonly key?: string;
}

/** What was saved, by name, with the way back beside it. */
function SavedHere({ slug, answer }: { slug: string; answer: Saved | undefined }) {
  const fetcher = useFetcher<Saved>();
  if (!answer?.saved) return null;
  const undone = fetcher.data?.saved;
  return (
    <div className="row" role="status">
      <span>{undone ?? answer.saved}</span>
      {undone || !answer.ids?.length ? null : (
        <fetcher.Form method="post" action={`/${slug}/log`}>
          <RequestKey value={`undo-${answer.ids.join("-")}-${answer.key ?? ""}`} />
          <input type="hidden" name="intent" value="undo" />
          {answer.ids.map((id) => (
            <input key={id} type="hidden" name="record" value={id} />
          ))}
          <Submit type="link">Undo</Submit>
        </fetcher.Form>
      )}
    </div>
  );
}

export function QuickHours({ data }: { data: Loaded }) {
  const fetcher = useFetcher<Saved>();
  const answer = fetcher.data;
  return (
    <Block>
      <fetcher.Form method="post" action={`/${data.slug}/log`} className="stack quick" key={data.keys.hours}>
        <input type="hidden" name="kind" value="hours" />
        <RequestKey value={answer?.key ?? data.keys.hours} />
        <Fields state={answer}>
          <div className="inline">
            <NumberField
              name="counterHours"
              label="Hours on the counter"
              unit="h"
              hint={data.counter ? `${data.counter.hours} h ${data.counter.since}` : "as the panel shows them"}
            />
            <Submit disabled={fetcher.state !== "idle"}>Save hours</Submit>
          </div>
          {answer?.ask ? (
            <Choices
              name="because"
              label={answer.ask}
              options={[
                { value: "tube-changed", label: "new tube" },
                { value: "counter-changed", label: "new or reset counter" },
              ]}
            />
          ) : null}
        </Fields>
      </fetcher.Form>
      <SavedHere slug={data.slug} answer={answer} />
    </Block>
  );
}

export function QuickCut({ data }: { data: Loaded }) {
  const fetcher = useFetcher<Saved>();
  const answer = fetcher.data;
  const first = data.materials[0];
  return (
    <Block>
      <fetcher.Form method="post" action={`/${data.slug}/log`} className="stack quick" key={data.keys.cut}>
        <input type="hidden" name="kind" value="cut" />
        <RequestKey value={answer?.key ?? data.keys.cut} />
        <Fields state={answer}>
          <SelectField
            name="materialId"
            label="Last cut, at your usual setting"
            options={data.materials.map((m) => ({ value: String(m.id), label: m.label }))}
          />
          <div className="fields pair">
            <NumberField name="speedMmPerS" label="Speed" unit="mm/s" defaultValue={first?.speed} />
            <NumberField name="setPercent" label="Power" unit="%" defaultValue={first?.setPercent} />
          </div>
          <Choices name="result" label="It went" options={CUT_CHOICES} />
        </Fields>
        <div className="row">
          <Submit disabled={fetcher.state !== "idle"}>Save cut</Submit>
        </div>
      </fetcher.Form>
      <SavedHere slug={data.slug} answer={answer} />
    </Block>
  );
}
