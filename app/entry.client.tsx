import { StrictMode, startTransition } from "react";
import { hydrateRoot } from "react-dom/client";
import { HydratedRouter } from "react-router/dom";
import type { Units } from "#core/units";
import { showIn } from "#services/units";

// As the page was made: what is drawn here says the same.
const { units } = document.documentElement.dataset;
if (units !== undefined) showIn(JSON.parse(units) as Units);

startTransition(() => {
  hydrateRoot(
    document,
    <StrictMode>
      <HydratedRouter />
    </StrictMode>,
  );
});

/** What is used at the machine, where the network is weak. */
const AT_THE_MACHINE = new Set(["today/route", "round/route", "round/run", "log/route", "trace/route", "trace/case"]);

/** Code of these places is fetched while there is time, so that a form can be sent, or fail with words, from any of them. */
function fetchAhead(): void {
  const { routes } = (
    window as unknown as { __reactRouterManifest: { routes: Record<string, { id: string; module: string; imports?: string[] }> } }
  ).__reactRouterManifest;
  const wanted = Object.values(routes).filter((r) => AT_THE_MACHINE.has(r.id));
  for (const href of new Set(wanted.flatMap((r) => [r.module, ...(r.imports ?? [])]))) {
    const link = document.createElement("link");
    link.rel = "modulepreload";
    link.dataset.ahead = "";
    link.href = href;
    document.head.append(link);
  }
}
const whenThereIsTime = () => window.setTimeout(fetchAhead, 1500);
if (document.readyState === "complete") whenThereIsTime();
else window.addEventListener("load", whenThereIsTime);
