/** Log: enter what happened fast, correct it without losing history, read it back. */

import { Suspense } from "react";
import { data, Form, redirect, type ShouldRevalidateFunctionArgs, useNavigation, useSearchParams } from "react-router";
import { trouble } from "#services/forms/fields";
import { keepEntry, savedWords } from "#services/log/keepEntry";
import type { EntryKind } from "#services/log/kinds/index";
import { logView } from "#services/log/logView";
import { gatherOnce } from "#services/machine/gather";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import { Block } from "../ui/Block";
import { FigureCurve } from "../ui/FigureCurve";
import { fetched } from "../ui/fetched";
import { FormProblem, Posted, RequestKey, Submit } from "../ui/form/Posted";
import { Fields } from "../ui/form/state";
import { MomentField, TextField } from "../ui/form/TextField";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { Notice } from "../ui/Notice";
import { PowerCurve } from "../ui/PowerCurve";
import { keyAfter, sendKept } from "../ui/sending";
import type { Route } from "./+types/route";
import { EntryForm } from "./EntryForm";
import { Lines } from "./Lines";

export const loader = reading(async ({ params, request, context }: Route.LoaderArgs) => ({
  ...(await logView(context, await gatherOnce(context, params.machine), new URL(request.url).searchParams)),
  key: context.freshKey(),
}));

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const entry = await keepEntry(context, params.machine, reader);
  if (entry.kept === "meanwhile")
    return data({ ...trouble(reader, entry.errors), kind: undefined, corrections: entry.corrections }, { status: 409 });
  if (entry.kept === undefined) return data({ ...trouble(reader, entry.errors), kind: entry.kind, ask: entry.ask }, { status: 400 });
  // Quick entries elsewhere stay where they are; the log's own form shows the new line.
  const isHere = reader.text("here") !== undefined;
  if (entry.kept === "struck")
    return isHere || reader.text("intent") === "void" ? redirect(`/${params.machine}/log?saved=void`) : { saved: DELETED, ids: [] };
  const ids = entry.ids ?? [];
  if (!isHere) return { saved: `Saved: ${await savedWords(context, params.machine, ids)}`, ids };
  if (entry.firstBaseline) return redirect(`/${params.machine}/today`);
  const leads = (entry.leads ?? []).map((lead) => `&lead=${lead}`).join("");
  const records = ids.map((id) => `&id=${id}`).join("");
  return redirect(`/${params.machine}/log?kind=${entry.kind}&saved=${entry.kept === "corrected" ? "corrected" : "1"}${records}${leads}`);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

/** What another device changed is shown in the list as well as in the words. */
export const shouldRevalidate = ({ actionStatus, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs) =>
  actionStatus === 409 || defaultShouldRevalidate;

/** Grammar and list of completions come after the page. */
const EntryLine = fetched(() => import("../ui/EntryLine").then((m) => m.EntryLine));

const DELETED = "Deleted. The history still shows it, crossed out.";
const SAID: Readonly<Record<string, string>> = {
  "1": "Saved",
  corrected: "Corrected. The first version stays in the history",
  void: DELETED,
};

/** An entry that was not saved. */
interface Failed {
  readonly errors: Readonly<Record<string, string>>;
  readonly typed: Readonly<Record<string, string>>;
  readonly kind?: EntryKind | undefined;
  readonly ask?: string | undefined;
  /** How often the entry was corrected by now. */
  readonly corrections?: number | undefined;
}

export default function Log({ loaderData, actionData }: Route.ComponentProps) {
  const { editing } = loaderData;
  const [search] = useSearchParams();
  const failed: Failed | undefined = actionData && "errors" in actionData ? actionData : undefined;
  const kind = failed?.kind ?? loaderData.kind;
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div className="stack">
          <h1 className="verdict">{editing ? "Correct this entry." : "What happened?"}</h1>
          {loaderData.said && !failed ? <Said data={loaderData} said={loaderData.said} /> : null}
          {loaderData.leads.map((lead) => (
            <Lead key={lead.id} lead={lead} data={loaderData} />
          ))}
        </div>
        {editing ? null : (
          <Suspense fallback={<div className="entry-line-place" />}>
            <EntryLine key={loaderData.key} vocabulary={loaderData.vocabulary} requestKey={loaderData.key} />
          </Suspense>
        )}
        <section className="stack">
          {editing ? null : (
            <nav className="row tight tabs" aria-label="Kind of entry">
              {loaderData.kinds.map((k) => (
                <LinkButton key={k.id} to={`/${loaderData.slug}/log?kind=${k.id}`} aria-current={k.id === kind ? "true" : undefined}>
                  {k.name}
                </LinkButton>
              ))}
              {loaderData.moreKinds.some((k) => k.id === kind) || search.get("more") ? (
                loaderData.moreKinds.map((k) => (
                  <LinkButton
                    key={k.id}
                    to={`/${loaderData.slug}/log?kind=${k.id}&more=1`}
                    aria-current={k.id === kind ? "true" : undefined}
                  >
                    {k.name}
                  </LinkButton>
                ))
              ) : (
                <LinkButton type="link" to={`/${loaderData.slug}/log?kind=${kind}&more=1`}>
                  More kinds
                </LinkButton>
              )}
              <LinkButton type="link" to={`/${loaderData.slug}/gate`}>
                Will it cut through?
              </LinkButton>
            </nav>
          )}
          {loaderData.before.length > 0 ? (
            <Notice kind="said">
              It said before:
              <ul>
                {loaderData.before.map((v) => (
                  <li key={v.id}>{v.text}</li>
                ))}
              </ul>
            </Notice>
          ) : null}
          <Entry data={loaderData} kind={kind} failed={failed} requestKey={keyAfter(actionData, loaderData.key)} />
        </section>
        {loaderData.chart && loaderData.chart.points.length > 1 ? (
          <section className="stack">
            <h2 className="card-title">Effective power, ladder by ladder</h2>
            <PowerCurve series={loaderData.chart} tall />
          </section>
        ) : null}
        {loaderData.figures.length > 0 ? (
          <section className="stack">
            <h2 className="card-title">Over time: {loaderData.filters.find((f) => f.value === loaderData.show)?.label}</h2>
            <FigureCurve lines={loaderData.figures} />
          </section>
        ) : null}
        <Lines data={loaderData} kind={kind} />
      </main>
    </div>
  );
}

/** That it was saved, what was saved, and the way back beside it. */
function Said({ data, said }: { data: Route.ComponentProps["loaderData"]; said: string }) {
  const { saved } = data;
  return (
    <Notice kind="said">
      <div className="row">
        <span>
          {SAID[said]}
          {saved ? <b>: {saved.words}</b> : null}
        </span>
        {saved && said === "1" ? (
          <Form method="post">
            <RequestKey value={`${data.key}-undo`} />
            <input type="hidden" name="intent" value="undo" />
            <input type="hidden" name="here" value="1" />
            {saved.ids.map((id) => (
              <input key={id} type="hidden" name="record" value={id} />
            ))}
            <Submit>Undo</Submit>
          </Form>
        ) : null}
      </div>
    </Notice>
  );
}

/** What an entry leads on to: a trace that begins with it, a round, or a new baseline. */
function Lead({ lead, data }: { lead: Route.ComponentProps["loaderData"]["leads"][number]; data: Route.ComponentProps["loaderData"] }) {
  return (
    <div className="row">
      <b>{lead.words}</b>
      {lead.check ? (
        <Posted action={`/${data.slug}/trace`}>
          <RequestKey value={`${data.key}-${lead.id}`} />
          <input type="hidden" name="check" value={lead.check} />
          <input type="hidden" name="outcome" value={lead.outcome} />
          <Submit>{lead.label}</Submit>
        </Posted>
      ) : lead.part ? (
        <Posted action={`/${data.slug}/round`}>
          <RequestKey value={`${data.key}-${lead.id}`} />
          <input type="hidden" name="part" value={lead.part} />
          <Submit>{lead.label}</Submit>
        </Posted>
      ) : (
        <LinkButton to={`/${data.slug}/log?kind=ladder&baseline=1`}>Cut a new baseline</LinkButton>
      )}
    </div>
  );
}

function Entry({
  data,
  kind,
  failed,
  requestKey,
}: {
  data: Route.ComponentProps["loaderData"];
  kind: EntryKind;
  failed: Failed | undefined;
  requestKey: string;
}) {
  const { editing } = data;
  const busy = useNavigation().state !== "idle";
  return (
    <Block strong>
      <Form method="post" className="stack" key={`${kind}-${editing?.id ?? data.key}-${failed ? "again" : "new"}`} noValidate>
        <RequestKey value={requestKey} />
        <input type="hidden" name="kind" value={kind} />
        <input type="hidden" name="here" value="1" />
        {editing ? (
          <>
            <input type="hidden" name="corrects" value={editing.id} />
            <input type="hidden" name="corrections" value={failed?.corrections ?? failed?.typed.corrections ?? editing.corrections} />
          </>
        ) : null}
        <Fields state={failed} typed={editing?.typed}>
          <FormProblem />
          <EntryForm
            kind={kind}
            options={data.options}
            ask={failed?.ask}
            baseline={data.baseline && !editing}
            isNew={!editing}
            asked={data.asked}
          />
          <div className="fields when">
            <MomentField name="at" label="When" defaultValue={data.today} latest={data.today} />
            {kind === "note" ? null : <TextField name="note" label="Note, if any" />}
          </div>
        </Fields>
        <div className="row">
          <Submit type="primary" disabled={busy}>
            {editing ? "Save the correction" : "Save"}
          </Submit>
          {editing ? (
            <>
              <Submit name="intent" value="void" disabled={busy}>
                Delete this entry
              </Submit>
              <LinkButton type="link" to={`/${data.slug}/log`}>
                Leave it as it is
              </LinkButton>
            </>
          ) : null}
        </div>
      </Form>
    </Block>
  );
}
