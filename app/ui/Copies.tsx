/** The copies on this computer, with the way back to each. */
import { Button } from "antd";
import { useState } from "react";
import { Form, useNavigation } from "react-router";
import { Submit } from "./form/Posted";

export function Copies({ list }: { list: readonly { readonly id: string; readonly at: string; readonly words: string }[] }) {
  return (
    <ul className="lines">
      {list.map((b) => (
        <li key={b.id} className="between">
          <span>
            <b>{b.at}</b> <span className="soft">{b.words}</span>
          </span>
          <Restore id={b.id} at={b.at} />
        </li>
      ))}
    </ul>
  );
}

/** Going back asks once more: a copy of how it is now is made first, so that it can be undone. */
function Restore({ id, at }: { id: string; at: string }) {
  const [asked, setAsked] = useState(false);
  const busy = useNavigation().state !== "idle";
  if (!asked) return <Button onClick={() => setAsked(true)}>Go back to it</Button>;
  return (
    <Form method="post" preventScrollReset className="row">
      <input type="hidden" name="intent" value="restore-copy" />
      <input type="hidden" name="copy" value={id} />
      <span>All as it was {at}? A copy of now is made first.</span>
      <Submit danger disabled={busy}>
        Yes, go back
      </Submit>
      <Button onClick={() => setAsked(false)}>No</Button>
    </Form>
  );
}
