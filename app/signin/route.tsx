/** Signing a device in to the workshop's network, and out again. */
import { data, Form, redirect, useNavigation } from "react-router";
import { FormReader } from "../server/forms";
import type { Route } from "./+types/route";

export function meta() {
  return [{ title: "Sign in · Clenor" }];
}

/** Only a path of our own: never another host. */
const own = (to: string | null | undefined) => (to && /^\/[^/\\]/.test(to) ? to : "/");

export function loader({ request, context }: Route.LoaderArgs) {
  const to = own(new URL(request.url).searchParams.get("to"));
  if (!context.door || context.signedIn || context.local) throw redirect(to);
  return { to };
}

export async function action({ request, context }: Route.ActionArgs) {
  const reader = new FormReader(await request.formData());
  const { door } = context;
  if (!door) return redirect("/");
  if (reader.text("intent") === "out") return redirect("/sign-in", { headers: { "Set-Cookie": await door.signOut() } });
  const cookie = await door.signIn(reader.text("passphrase") ?? "", context.address);
  if (!cookie) return data({ problem: "That is not the passphrase. Each wrong try makes the next one wait longer." }, { status: 403 });
  return redirect(own(reader.text("to")), { headers: { "Set-Cookie": cookie } });
}

export default function SignIn({ loaderData, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== "idle";
  return (
    <main className="lone">
      <p className="wordmark" style={{ color: "var(--ink)" }}>
        clenor<i>.</i>
      </p>
      <h1 className="verdict">This is a workshop's own Clenor.</h1>
      <Form method="post" className="stack">
        <input type="hidden" name="to" value={loaderData.to} />
        <label className="field">
          <span className="label">Passphrase</span>
          <input
            className="line-input"
            type="password"
            name="passphrase"
            autoComplete="current-password"
            required
            aria-invalid={actionData?.problem ? true : undefined}
            aria-describedby={actionData?.problem ? "problem" : undefined}
          />
        </label>
        {actionData?.problem ? (
          <p className="hot" role="alert" id="problem">
            {actionData.problem}
          </p>
        ) : null}
        <button type="submit" className="button primary tall" disabled={busy}>
          {busy ? "One moment…" : "Sign in"}
        </button>
      </Form>
    </main>
  );
}
