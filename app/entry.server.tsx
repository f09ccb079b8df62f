import { PassThrough } from "node:stream";
import { createCache, extractStyle, StyleProvider } from "@ant-design/cssinjs";
import { createReadableStreamFromReadable } from "@react-router/node";
import { renderToPipeableStream } from "react-dom/server";
import { type AppLoadContext, type EntryContext, isRouteErrorResponse, ServerRouter } from "react-router";
import { NonceContext } from "./ui/nonce";

/**
 * Styles of components, made once for each kind of page. A kind's pages use the same components, so what one of them needed the next one
 * needs as well; nothing of a visitor is in them.
 */
const styles = new Map<string, ReturnType<typeof createCache>>();

function stylesFor(kind: string): ReturnType<typeof createCache> {
  const known = styles.get(kind) ?? createCache();
  styles.set(kind, known);
  return known;
}

/** Renders a page whole, then puts the component styles it used into its head: no flash and nothing to fetch. */
export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  routerContext: EntryContext,
  context: AppLoadContext,
): Promise<Response> {
  const cache = stylesFor(routerContext.staticHandlerContext.matches.map((m) => m.route.id).join(" "));
  return new Promise((resolve, reject) => {
    let failed = false;
    const { pipe, abort } = renderToPipeableStream(
      <StyleProvider cache={cache}>
        <NonceContext value={context.nonce}>
          <ServerRouter context={routerContext} url={request.url} nonce={context.nonce} />
        </NonceContext>
      </StyleProvider>,
      {
        nonce: context.nonce,
        onAllReady() {
          const body = new PassThrough();
          const chunks: Buffer[] = [];
          body.on("data", (chunk: Buffer) => chunks.push(chunk));
          body.on("end", () => {
            const html = Buffer.concat(chunks)
              .toString("utf8")
              .replace("</head>", `${extractStyle(cache)}</head>`);
            headers.set("Content-Type", "text/html; charset=utf-8");
            const out = new PassThrough();
            out.end(html);
            resolve(new Response(createReadableStreamFromReadable(out), { status: failed ? 500 : status, headers }));
          });
          pipe(body);
        },
        onShellError: reject,
        onError(error) {
          failed = true;
          context.log.error(error instanceof Error ? error : new Error(String(error)), "render failed");
        },
      },
    );
    setTimeout(abort, 10_000).unref();
  });
}

export function handleError(error: unknown, { context, request }: { context: AppLoadContext; request: Request }): void {
  // What a request asked for wrongly is told to whoever asked; the log keeps what went wrong here.
  if (request.signal.aborted || (isRouteErrorResponse(error) && error.status < 500)) return;
  context.log.error(error instanceof Error ? error : new Error(String(error)), "request failed");
}
