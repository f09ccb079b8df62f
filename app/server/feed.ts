/** A plan's feed for a calendar that cannot sign in: read under a secret address, and only in a server that is in the workshop's network. */
import type { Request, Response } from "express";
import { rateLimit } from "express-rate-limit";
import type { Services } from "#services/context";
import { gather } from "#services/machine/gather";
import { planFeed } from "#services/plan/calendar";
import { machineOfFeed } from "#services/plan/feed";
import { listMachines } from "#store/machines";

/** Whoever guesses gets so many tries a minute. */
export const limitGuesses = () => rateLimit({ windowMs: 60_000, limit: 20, skipSuccessfulRequests: true, legacyHeaders: false });

export function serveFeed(services: Services) {
  return async (request: Request, response: Response): Promise<void> => {
    const secret = String(request.params.secret ?? "").replace(/\.ics$/, "");
    const id = await machineOfFeed(services, secret);
    const machine = (await listMachines(services.store)).find((m) => m.id === id);
    response.setHeader("Cache-Control", "no-store");
    if (!machine) return void response.status(404).type("text").send("There is no such calendar, or it was revoked.\n");
    response.type("text/calendar; charset=utf-8").send(planFeed(await gather(services, machine.slug)));
  };
}

/** An address as it may stand in a log: a secret is none of its business. */
export const withoutSecret = (url: string | undefined): string | undefined => url?.replace(/^\/feed\/[^/?]+/, "/feed/…");
