import { PassThrough } from "node:stream";
import { createReadableStreamFromReadable } from "@react-router/node";
import { renderToPipeableStream } from "react-dom/server";
import { type AppLoadContext, type EntryContext, isRouteErrorResponse, ServerRouter } from "react-router";
import { NonceContext } from "./ui/nonce";

/** Renders a page whole before any of it is sent. */
export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  routerContext: EntryContext,
  context: AppLoadContext,
): Promise<Response> {
  return new Promise((resolve, reject) => {
    let failed = false;
    const { pipe, abort } = renderToPipeableStream(
      <NonceContext value={context.nonce}>
        <ServerRouter context={routerContext} url={request.url} nonce={context.nonce} />
      </NonceContext>,
      {
        nonce: context.nonce,
        onAllReady() {
          const body = new PassThrough();
          headers.set("Content-Type", "text/html; charset=utf-8");
          resolve(new Response(createReadableStreamFromReadable(body), { status: failed ? 500 : status, headers }));
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
