import "@fontsource-variable/archivo/wdth.css";
import "./ui/theme.css";
import { Alert, Button, ConfigProvider } from "antd";
import { useContext } from "react";
import { isRouteErrorResponse, Links, Meta, Outlet, Scripts, ScrollRestoration, useRouteError } from "react-router";
import { NonceContext } from "./ui/nonce";
import { dismissTrouble, useSendingTrouble } from "./ui/sending";
import { theme } from "./ui/theme";

export function Layout({ children }: { children: React.ReactNode }) {
  const nonce = useContext(NonceContext);
  return (
    <html lang="en">
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <link rel="icon" href="/mark.svg" type="image/svg+xml" />
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

export function meta() {
  return [{ title: "Clenor" }];
}

export default function App() {
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

export function ErrorBoundary() {
  const error = useRouteError();
  const known = isRouteErrorResponse(error);
  if (isLost(error)) {
    return (
      <main className="lone">
        <h1 className="verdict">No answer from the server.</h1>
        <p className="lead">The connection is lost, or Clenor was stopped. What you had saved before is safe.</p>
        <p>
          <Button type="primary" size="large" onClick={() => window.location.reload()}>
            Try again
          </Button>
        </p>
      </main>
    );
  }
  return (
    <main className="lone">
      <h1 className="verdict">{known && error.status === 404 ? "There is nothing at this address." : "Something went wrong here."}</h1>
      <p className="lead">
        {known
          ? String(error.data || error.statusText)
          : "What you had saved before is safe. Go back and try again; if it stays, look at the server's log."}
      </p>
      <p>
        <a className="button primary" href="/">
          To Today
        </a>
      </p>
    </main>
  );
}
