/** Signing a device in to the workshop's network, and out again. */

import { data, Form, redirect, useNavigation } from "react-router";
import { saving } from "../server/saving";
import { Submit } from "../ui/form/Posted";
import { Fields } from "../ui/form/state";
import { TextField } from "../ui/form/TextField";
import { sendKept } from "../ui/sending";
import type { Route } from "./+types/route";

export function meta() {
  return [{ title: "Sign in · Clenor" }];
}

export function loader({ request, context }: Route.LoaderArgs) {
  context.personal();
  const asked = new URL(request.url).searchParams.get("to") ?? "/";
  const to = context.isPage(asked) ? asked : "/";
  if (!context.door || context.signedIn || context.local) throw redirect(to);
  return { to };
}

/** What kind of device it is, where it has not been given a name. */
function kindOfDevice(agent: string): string {
  if (/ipad|tablet|android(?!.*mobile)/i.test(agent)) return "a tablet";
  return /mobi|phone/i.test(agent) ? "a phone" : "a computer";
}

export const action = saving(async (reader, { request, context }: Route.ActionArgs) => {
  const { door } = context;
  if (!door) return redirect("/");
  if (new URL(request.url).searchParams.has("out"))
    return redirect("/sign-in", { headers: { "Set-Cookie": await door.signOut(context.sessionId) } });
  const device = reader.text("device")?.slice(0, 40) ?? kindOfDevice(request.headers.get("user-agent") ?? "");
  let cookie: string | undefined;
  try {
    cookie = await door.signIn(reader.text("passphrase") ?? "", context.address, device);
  } catch (error) {
    // Told by its name: the process and its pages are two bundles, each with a class of its own.
    if ((error as Error).name !== "TooManyTries") throw error;
    return data({ errors: { passphrase: (error as Error).message }, typed: {} }, { status: 429 });
  }
  if (!cookie)
    return data(
      { errors: { passphrase: "That is not the passphrase. Each wrong try makes the next one wait longer." }, typed: {} },
      { status: 403 },
    );
  const to = reader.text("to") ?? "/";
  return redirect(context.isPage(to) ? to : "/", { headers: { "Set-Cookie": cookie } });
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

export default function SignIn({ loaderData, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== "idle";
  return (
    <main className="lone">
      <p className="wordmark dark">
        clenor<i>.</i>
      </p>
      <h1 className="verdict">This is a workshop's own Clenor.</h1>
      <Form method="post" className="stack">
        <input type="hidden" name="to" value={loaderData.to} />
        <Fields state={actionData}>
          <TextField name="passphrase" label="Passphrase" password autoFocus />
          <TextField
            name="device"
            label="What is this device called?"
            placeholder="the phone at the bench"
            hint="so that it can be told from others in the list; may stay empty"
          />
        </Fields>
        <Submit type="primary" size="large" disabled={busy}>
          {busy ? "One moment…" : "Sign in"}
        </Submit>
      </Form>
    </main>
  );
}
