/** A run of the practice probe, sample by sample, a line of JSON each. Closing the line ends the run. */
import { benchOf } from "#services/bench";
import { gatherOnce } from "#services/machine/gather";
import { NotHere } from "#services/refusal";
import { reading } from "../server/reading";
import type { Route } from "./+types/probe";

const within = (text: string | null, low: number, high: number, usual: number): number => {
  const value = Number(text ?? Number.NaN);
  return value >= low && value <= high ? value : usual;
};

export const loader = reading(async ({ params, request, context }: Route.LoaderArgs) => {
  const g = await gatherOnce(context, params.machine);
  const search = new URL(request.url).searchParams;
  const station = search.get("station") ?? "";
  if (!g.trade.layout.stations.some((s) => s.id === station)) throw new NotHere("There is no such part on the path.");
  const samples = benchOf(g, Date.now()).probe(
    {
      station,
      setPercent: within(search.get("setPercent"), 1, 100, 100),
      heatS: within(search.get("heatS"), 1, 120, 30),
      tailS: 60,
      ambientC: within(search.get("ambientC"), -20, 60, 22),
      massG: within(search.get("massG"), 1, 5000, 100),
    },
    request.signal,
  );
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const next = await samples.next();
      if (next.done) controller.close();
      else controller.enqueue(encoder.encode(`${JSON.stringify(next.value)}\n`));
    },
    cancel: async () => void (await samples.return(undefined)),
  });
  // Not packed: a line has to arrive when it was read.
  return new Response(body, { headers: { "Content-Type": "application/x-ndjson", "Cache-Control": "no-store, no-transform" } });
});
