import "@fontsource-variable/archivo/wght.css";
import letters from "@fontsource-variable/archivo/files/archivo-latin-wght-normal.woff2?url";
import "virtual:looks.css";
import "./ui/theme.css";
import { Alert, Button, ConfigProvider, Result } from "antd";
import { useContext, useEffect } from "react";
import { isRouteErrorResponse, Links, Meta, Outlet, Scripts, ScrollRestoration, useRouteError, useRouteLoaderData } from "react-router";
import { unitsInForce } from "#services/units";
import { takeUnits } from "#services/workshop/units";
import type { Route } from "./+types/root";
import { LOOK_SCRIPT } from "./ui/look";
import { NonceContext } from "./ui/nonce";
import { palettes, variablesOf } from "./ui/palette";
import { dismissTrouble, useSendingTrouble } from "./ui/sending";
import { themeOf } from "./ui/theme";

// Its looks are a style sheet already: see vite.config.ts.
const theme = { ...themeOf(palettes.light), zeroRuntime: true };
const variables = variablesOf(palettes);

/** Before anything else is drawn: the units that all figures are shown in. */
export const loader = async ({ context }: Route.LoaderArgs) => ({ units: await takeUnits(context.store) });

export function Layout({ children }: { children: React.ReactNode }) {
  const nonce = useContext(NonceContext);
  const units = useRouteLoaderData<typeof loader>("root")?.units;
  return (
    // The look is this device's own, and set before anything is drawn.
    <html lang="en" data-units={units && JSON.stringify(units)} suppressHydrationWarning>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <link rel="icon" href="/mark.svg" type="image/svg+xml" />
        <style>{variables}</style>
        <script nonce={nonce} suppressHydrationWarning>
          {LOOK_SCRIPT}
        </script>
        <Meta />
        <Links />
      </head>
      <body>
        {children}
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

/** The letters of nearly every word are fetched with the style sheet, not after it. */
export const links = () => [{ rel: "preload", href: letters, as: "font", type: "font/woff2", crossOrigin: "anonymous" as const }];

export function meta() {
  return [{ title: "Clenor" }];
}

export default function App({ loaderData: { units } }: Route.ComponentProps) {
  // Every figure on the page was put into words: chosen anew, it is told anew.
  const isOther = JSON.stringify(units) !== JSON.stringify(unitsInForce());
  useEffect(() => {
    if (isOther) window.location.reload();
  }, [isOther]);
  return (
    <ConfigProvider theme={theme} wave={{ disabled: true }}>
      <Unsent />
      <Outlet />
    </ConfigProvider>
  );
}

/** What kept the last form from being saved, until it was sent or the bar is put away. */
function Unsent() {
  const words = useSendingTrouble();
  if (words === undefined) return null;
  return <Alert className="unsent" type="error" title={words} showIcon={false} closable={{ onClose: dismissTrouble }} role="alert" />;
}

/** No answer from the server, as the browser says it. */
const isLost = (error: unknown) => error instanceof TypeError && /fetch|network|load/i.test(error.message);

/** What a service said of it; what the router says of an address is not for owners. */
const wordsOf = (said: unknown): string => (typeof said === "string" && !said.startsWith("Error: ") ? said : "");

export function ErrorBoundary() {
  const error = useRouteError();
  if (isLost(error)) {
    return (
      <Failure title="No answer from the server." words="The connection is lost, or Clenor was stopped. What you had saved before is safe.">
        <Button type="primary" size="large" onClick={() => window.location.reload()}>
          Try again
        </Button>
      </Failure>
    );
  }
  const known = isRouteErrorResponse(error);
  return (
    <Failure
      title={known && error.status === 404 ? "There is nothing at this address." : "Something went wrong here."}
      words={
        known
          ? wordsOf(error.data) || "Perhaps it was mistyped, or what stood here is gone."
          : "What you had saved before is safe. Go back and try again; if it stays, look at the server's log."
      }
    >
      <Button type="primary" size="large" href="/">
        To Today
      </Button>
      {known && error.status < 500 ? null : (
        <Button size="large" href="/copies">
          Copies on this computer
        </Button>
      )}
    </Failure>
  );
}

function Failure({ title, words, children }: { title: string; words: string; children: React.ReactNode }) {
  return (
    <ConfigProvider theme={theme}>
      <main className="lone">
        <Result icon={null} title={<h1 className="verdict">{title}</h1>} subTitle={words} extra={children} />
      </main>
    </ConfigProvider>
  );
}
