/** Starts the round that carries out a repair of a case. */
import { Posted, RequestKey, Submit } from "../ui/form/Posted";
import type { Route } from "./+types/case";

type Loaded = Route.ComponentProps["loaderData"];

export function RepairStart({
  loaded,
  parts,
  title,
  label,
  requestKey,
  primary,
}: {
  loaded: Loaded;
  parts: readonly string[];
  title: string;
  label: string;
  requestKey: string;
  primary?: boolean;
}) {
  return (
    <Posted action={`/${loaded.slug}/round`}>
      <RequestKey value={requestKey} />
      <input type="hidden" name="title" value={title} />
      <input type="hidden" name="caseId" value={loaded.id} />
      {parts.map((p) => (
        <input key={p} type="hidden" name="part" value={p} />
      ))}
      <Submit type={primary ? "primary" : "default"} size={primary ? "large" : "middle"}>
        {label}
      </Submit>
    </Posted>
  );
}

/** The likeliest repair, for an owner who will not ask on. */
export function RepairDirect({ loaded }: { loaded: Loaded }) {
  const straight = loaded.view.straight;
  if (!straight) return null;
  return (
    <div className="row">
      <RepairStart
        loaded={loaded}
        parts={straight.parts}
        title={straight.name}
        label={`Repair anyway: ${straight.name} (${straight.chance})`}
        requestKey={loaded.keys.straight}
      />
    </div>
  );
}
