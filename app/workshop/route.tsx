/** Workshop: what this machine is. Its path, fittings, materials, the shelf, its name; other machines and devices. */
import "./workshop.css";
import { data, redirect } from "react-router";
import { filesView } from "#services/exchange/files";
import { recordId, trouble } from "#services/forms/fields";
import { gatherOnce } from "#services/machine/gather";
import { dayAndTime, shortDay } from "#services/words";
import { editByForm } from "#services/workshop/edit";
import { ADDED, TAKEN_OFF } from "#services/workshop/words";
import { workshopView } from "#services/workshop/workshopView";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import type { FormState } from "../ui/form/state";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { Notice } from "../ui/Notice";
import { sendKept } from "../ui/sending";
import type { Route } from "./+types/route";
import type { EditState } from "./EditForm";
import { Files } from "./Files";
import { Fittings, Shelf } from "./Fittings";
import { Devices, MachineTab } from "./MachineTab";
import { MaterialAdd, MaterialRow } from "./Materials";
import { PathEditor } from "./PathEditor";
import { StationForm } from "./StationForm";

const TABS = [
  { id: "path", name: "Beam path" },
  { id: "fittings", name: "Fittings" },
  { id: "materials", name: "Materials" },
  { id: "shelf", name: "Shelf" },
  { id: "machine", name: "Machine" },
  { id: "files", name: "Files" },
  { id: "devices", name: "Devices" },
] as const;

/** What a form that leads here may say. */
const SAID = [ADDED, TAKEN_OFF.bare, TAKEN_OFF.withHistory];

export const loader = reading(async ({ params, request, context }: Route.LoaderArgs) => {
  const g = await gatherOnce(context, params.machine);
  const search = new URL(request.url).searchParams;
  const tab = TABS.find((t) => t.id === search.get("tab"))?.id ?? "path";
  // Which devices are signed in, and which of them is this one, is nobody else's page.
  // Copies lie beside the database, so that a page made once would not know of a new one.
  if (tab === "devices" || tab === "files") context.personal();
  const sessions = tab === "devices" ? ((await context.door?.sessions()) ?? []) : [];
  return {
    ...workshopView(g, search.get("station")),
    tab,
    // What the form before this page came to; only words of our own.
    said: SAID.find((words) => words === search.get("said")),
    sessions: sessions.map((s) => ({
      id: s.id,
      device: s.device,
      address: s.address,
      seen: dayAndTime(s.seenMs),
      since: shortDay(s.createdMs, g.nowMs),
      here: s.id === context.sessionId,
    })),
    lan: context.lanUrls,
    ...(await filesView(context, tab === "files")),
  };
});

export const action = saving(async (reader, { request, params, context }: Route.ActionArgs) => {
  const intent = reader.text("intent") ?? "";
  if (intent === "end-session") {
    const id = recordId(reader.text("session"));
    if (id === undefined || !context.door) return data({ ...trouble(reader, { "": "There is no such device." }), intent }, { status: 400 });
    await context.door.signOut(id);
    return { said: "Signed out. It has to give the passphrase again.", errors: {}, typed: {}, intent };
  }
  if (intent === "copies-folder" && !context.local)
    return data({ ...trouble(reader, { folder: ONLY_HERE }), intent, stale: undefined }, { status: 403 });
  const result = await editByForm(context, params.machine, reader);
  if ("errors" in result)
    return data({ ...trouble(reader, result.errors), intent, stale: result.stale }, { status: result.stale ? 409 : 400 });
  const here = new URL(request.url);
  if (intent === "remove") return redirect(`${here.pathname}?tab=path&said=${encodeURIComponent(result.said)}`);
  if (result.added) return redirect(`${here.pathname}?tab=path&station=${result.added}&said=${encodeURIComponent(result.said)}`);
  return { said: result.said, errors: {}, typed: {}, intent };
});

/** A folder of the computer is named at the computer. */
const ONLY_HERE = "Only at the computer Clenor runs on: it is a folder of that one.";

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

type Loaded = Route.ComponentProps["loaderData"];

/** What came of a form: said when it was saved, else what is wrong, and what another device changed. */
interface Answer extends FormState {
  readonly said?: string | undefined;
  readonly intent?: string | undefined;
  readonly stale?: { readonly changed: readonly string[]; readonly madeFrom: string } | undefined;
}

/** How the form of an intent stands; of a material's, by its id. */
function stateOf(answer: Answer | undefined, intent: string, madeFrom: string, material?: number): EditState {
  const isOwn = answer?.intent === intent && (material === undefined || answer.typed.material === String(material));
  if (!isOwn) return { madeFrom, changed: undefined, answer: undefined };
  const kept = answer.said === undefined ? answer : undefined;
  return { madeFrom: answer.stale?.madeFrom ?? madeFrom, changed: answer.stale?.changed, answer: kept };
}

export default function Workshop({ loaderData: d, actionData }: Route.ComponentProps) {
  const answer: Answer | undefined = actionData;
  const problem = answer?.errors.path ?? answer?.errors[""];
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div>
          <h1 className="verdict">
            {d.name}, {d.ratedPowerW} W
          </h1>
          <p className="lead">
            Began as: {d.layout.toLowerCase()}. Everything here decides what a round asks for, what is due and what a trace suspects.
          </p>
        </div>
        <nav className="row tight tabs" aria-label="Parts of the workshop">
          {TABS.map((t) => (
            <LinkButton key={t.id} to={`?tab=${t.id}`} aria-current={d.tab === t.id ? "page" : undefined}>
              {t.name}
            </LinkButton>
          ))}
        </nav>
        {problem ? <Notice kind="problem">{problem}</Notice> : null}
        {(answer?.said ?? d.said) ? <Notice kind="said">{answer?.said ?? d.said}</Notice> : null}
        <Tab d={d} answer={answer} />
      </main>
    </div>
  );
}

function Tab({ d, answer }: { d: Loaded; answer: Answer | undefined }) {
  const state = (form: keyof Loaded["madeFrom"]) => stateOf(answer, form, d.madeFrom[form]);
  switch (d.tab) {
    case "path":
      return (
        <div className="editor">
          <PathEditor rows={d.rows} madeFrom={d.madeFrom.order} chosen={d.station?.id} addable={d.addable} hidden={d.hidden} />
          {d.station ? (
            <StationForm
              key={d.station.id}
              station={d.station}
              nominalPercent={d.nominalPercent}
              usualBeamTo={d.usualBeamTo}
              state={state("station")}
            />
          ) : null}
        </div>
      );
    case "fittings":
      return <Fittings d={d} state={state("fittings")} />;
    case "files":
      return (
        <Files
          d={d}
          answer={
            answer?.intent && ["backup", "restore-copy", "copies-folder"].includes(answer.intent) && answer.said === undefined
              ? answer
              : undefined
          }
        />
      );
    case "materials":
      return (
        <div className="stack loose">
          <div className="materials">
            {d.materials.map((m) => (
              <MaterialRow key={m.id} material={m} state={stateOf(answer, "material", m.madeFrom, m.id)} />
            ))}
          </div>
          <MaterialAdd
            kinds={d.kinds}
            answer={answer?.intent === "new-material" && answer.said === undefined ? answer : undefined}
            saved={answer?.said}
          />
        </div>
      );
    case "shelf":
      return <Shelf d={d} state={state("shelf")} />;
    case "machine":
      return (
        <MachineTab
          d={d}
          state={state("machine")}
          currency={stateOf(answer, "currency", d.currency)}
          units={stateOf(answer, "units", JSON.stringify(d.units))}
        />
      );
    case "devices":
      return <Devices d={d} bench={stateOf(answer, "bench", "")} />;
  }
}
