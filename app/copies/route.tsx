/** The way back, which needs no machine that can be read: the copies on this computer, and going back to one of them. */
import { data } from "react-router";
import { copiesView, fileByForm } from "#services/exchange/files";
import { trouble } from "#services/forms/fields";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import { Copies } from "../ui/Copies";
import { FormProblem } from "../ui/form/Posted";
import { Fields } from "../ui/form/state";
import { LinkButton } from "../ui/LinkButton";
import { Notice } from "../ui/Notice";
import { sendKept } from "../ui/sending";
import type { Route } from "./+types/route";

export const loader = reading(async ({ context }: Route.LoaderArgs) => {
  // They lie beside the database: it does not tell when there is another one.
  context.personal();
  return { copies: (await copiesView(context)).list };
});

export const action = saving(async (reader, { context }: Route.ActionArgs) => {
  const done = await fileByForm(context, reader);
  return "errors" in done ? data({ ...trouble(reader, done.errors), said: undefined }, { status: 400 }) : { said: done.said };
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

export function meta() {
  return [{ title: "Copies · Clenor" }];
}

export default function CopiesPage({ loaderData, actionData }: Route.ComponentProps) {
  const said = actionData && "said" in actionData ? actionData.said : undefined;
  return (
    <main className="lone stack loose">
      <h1 className="verdict">Copies on this computer.</h1>
      <p className="lead">
        Each holds the whole workshop as it was then, without its photos. Before you go back to one, a copy of how it is now is made.
      </p>
      {said ? <Notice kind="said">{said}</Notice> : null}
      <Fields state={actionData && "errors" in actionData ? actionData : undefined}>
        <FormProblem />
      </Fields>
      {loaderData.copies.length === 0 ? <p>There is none yet.</p> : <Copies list={loaderData.copies} />}
      <div className="row">
        <LinkButton to="/">To Today</LinkButton>
      </div>
    </main>
  );
}
