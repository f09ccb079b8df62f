/** The round's way through the machine: where we are, what is behind and what is to come. */
import type { Route } from "./+types/run";

type Loaded = Route.ComponentProps["loaderData"];

export function Way({ data: loaded, at }: { data: Loaded; at: number }) {
  const parts: { name: string; first: number; count: number }[] = [];
  loaded.steps.forEach((s, i) => {
    const last = parts.at(-1);
    if (last?.name === s.part) last.count++;
    else parts.push({ name: s.part, first: i, count: 1 });
  });
  return (
    <aside className="rail">
      <ol className="way" aria-label="The round's way through the machine">
        {parts.map((p) => {
          const now = at >= p.first && at < p.first + p.count;
          const past = at >= p.first + p.count;
          return (
            <li key={p.first} className={now ? "now" : past ? "past" : ""} aria-current={now ? "step" : undefined}>
              <i className="dot" aria-hidden="true" />
              {now ? <b>{p.name}</b> : <span className={past ? "" : "soft"}>{p.name}</span>}
              {now && p.count > 1 ? (
                <span className="small soft" style={{ display: "block" }}>
                  step {at - p.first + 1} of {p.count}
                </span>
              ) : null}
            </li>
          );
        })}
      </ol>
    </aside>
  );
}
