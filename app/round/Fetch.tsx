/** What to have at hand, in the order one walks to get it. What is not on the shelf says so. */
import type { FetchList } from "#core/rounds";

export function Fetch({ list }: { list: FetchList }) {
  const groups = [
    { name: "Wear", items: (list.gear ?? []).map((name) => ({ name, missing: false })) },
    { name: "Keys", items: list.keys.map((name) => ({ name, missing: false })) },
    { name: "Tools", items: list.tools.map((name) => ({ name, missing: false })) },
    { name: "Cleaners and cloths", items: list.agents },
    { name: "Supplies", items: list.supplies.map((name) => ({ name, missing: false })) },
  ].filter((g) => g.items.length > 0);
  return (
    <div className="fetch">
      {groups.map((g) => (
        <section key={g.name}>
          <h2 className="small-title">{g.name}</h2>
          <ul>
            {g.items.map((i) => (
              <li key={i.name} className="fetch-item">
                {i.name}
                {i.missing ? <b className="hot"> not on your shelf</b> : null}
              </li>
            ))}
          </ul>
        </section>
      ))}
      {list.maybe && list.maybe.length > 0 ? (
        <p className="soft small fetch-maybe">
          {groups.length > 0 ? "If an inspection asks for more: " : "Nothing, if all is clear. Otherwise: "}
          {list.maybe.map((i) => (i.missing ? `${i.name} (not on your shelf)` : i.name)).join(", ")}.
        </p>
      ) : null}
    </div>
  );
}
