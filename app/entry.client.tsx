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

/** Code of places not visited yet is fetched while there is time, so that a form can be sent, or fail with words, from any of them. */
function fetchAhead(): void {
  const { routes } = (window as unknown as { __reactRouterManifest: { routes: Record<string, { module: string; imports?: string[] }> } })
    .__reactRouterManifest;
  for (const href of new Set(Object.values(routes).flatMap((r) => [r.module, ...(r.imports ?? [])]))) {
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
