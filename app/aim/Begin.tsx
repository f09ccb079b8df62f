/** Before the first mark: what it takes, and what must be so before anything is fired. */
import { Form, Link, useNavigation } from "react-router";
import { Block } from "../ui/Block";
import { Drawing } from "../ui/Drawing";
import { Tick } from "../ui/form/Choices";
import { FormProblem, RequestKey, Submit } from "../ui/form/Posted";
import { Fields, type FormState } from "../ui/form/state";
import { Notice } from "../ui/Notice";
import type { Route } from "./+types/route";
import { StopCard } from "./StopCard";

type Loaded = Route.ComponentProps["loaderData"];

export function Begin({ loaded, failed, requestKey }: { loaded: Loaded; failed: Partial<FormState> | undefined; requestKey: string }) {
  const { last, openCase, slug } = loaded;
  return (
    <>
      <div>
        <h1 className="verdict">Bring the beam back to the middle.</h1>
        <p className="lead">
          A mark near, a mark far: the sums say which screw to turn, by how much, and where the mark will sit then. One screw at a time;
          what each does is remembered for this machine.
        </p>
        {last ? (
          <p className="soft">
            Last time {last.when}: {last.words}
          </p>
        ) : null}
        {openCase ? (
          <p>
            For <Link to={`/${slug}/trace/${openCase.id}`}>case {openCase.number}</Link>, {openCase.title.toLowerCase()}. A good end goes
            there, with its round.
          </p>
        ) : null}
      </div>
      {loaded.stop ? <StopCard loaded={loaded} stop={loaded.stop} /> : <Before loaded={loaded} failed={failed} requestKey={requestKey} />}
    </>
  );
}

function Before({ loaded: { openCase, fromLog }, failed, requestKey }: Parameters<typeof Begin>[0]) {
  const busy = useNavigation().state !== "idle";
  return (
    <Block strong label="Before the first mark">
      <div className="picture">
        <Drawing id="tape" />
        <div className="stack">
          <p className="card-lead">
            Fetch packing tape or thermal paper, a marker pen and the screw key. Tape goes on the frame over the mirror, off the glass. Turn
            the power down to 15 to 20 %.
          </p>
          <Notice kind="caution">
            Invisible beam: all panels on, lid closed for every pulse, interlock working, goggles rated for 10.6 µm. Test a scrap of the
            tape first: some catch fire. What the maker's manual says of aiming comes first; the tube's own mounts are for a qualified
            person.
          </Notice>
        </div>
      </div>
      <Form method="post" className="stack">
        <RequestKey value={requestKey} />
        <input type="hidden" name="intent" value="start" />
        {openCase ? <input type="hidden" name="caseId" value={openCase.id} /> : null}
        <Fields state={failed}>
          <FormProblem />
          {fromLog.length > 0 ? (
            <Tick
              name="take"
              defaultChecked
              label={`Begin with ${fromLog.length === 1 ? "the mark" : "the marks"} from the log · ${fromLog.join(" · ")}`}
            />
          ) : null}
          <Tick name="safe" label="Panels on, interlock working, tape tried on a scrap, power turned down to 15 to 20 %" />
        </Fields>
        <div>
          <Submit type="primary" size="large" disabled={busy}>
            Start aiming
          </Submit>
        </div>
      </Form>
    </Block>
  );
}
