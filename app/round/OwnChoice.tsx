/** A round of one's own: the parts to tick, each with its minutes and what is due of it. */
import { Checkbox } from "antd";
import { Form, useSearchParams } from "react-router";
import { Block } from "../ui/Block";
import { Submit } from "../ui/form/Posted";
import type { Route } from "./+types/route";

export function OwnChoice({ parts }: { parts: NonNullable<Route.ComponentProps["loaderData"]["parts"]> }) {
  const [search] = useSearchParams();
  return (
    <Block>
      <Form method="get" className="stack" key={search.toString()} preventScrollReset>
        <fieldset className="parts">
          <legend className="sr">Parts of this round</legend>
          {parts.map((p) => (
            <Checkbox key={p.id} name="part" value={p.id} defaultChecked={p.chosen} className="part">
              <span className="grow">{p.name}</span>
              <span className={p.late ? "hot small" : "soft small"}>{p.due}</span>
              <span className="soft small nowrap">{p.minutes} min</span>
            </Checkbox>
          ))}
        </fieldset>
        <Submit>Plan these</Submit>
      </Form>
    </Block>
  );
}
