/**
 * `npm run bench -- NAME`: each benchmark runs both sides in its one run and prints what it found; without a name it lists them. What each
 * takes besides stands at the head of its file.
 */
const BENCHES: Readonly<Record<string, { readonly says: string; readonly run: () => Promise<unknown> }>> = {
  engine: { says: "time of a full trace against a plain enumeration of the same sets", run: () => import("./engine") },
  pages: { says: "weight of the pages, start of the server, layout shift, a page made anew and kept", run: () => import("./pages") },
  load: { says: "pages under load, against a bare server of the same pages", run: () => import("./load") },
  log: { says: "pages on a long log against a short one", run: () => import("./log") },
  beside: { says: "Today while something else is done beside it", run: () => import("./beside") },
  trace: { says: "simulated machines with hidden faults through two fixed routines and Clenor's own way", run: () => import("./trace") },
  aim: { says: "simulated machines out of alignment", run: () => import("./aim") },
  wear: { says: "power over years: worlds of their own, and three simple habits", run: () => import("./wear") },
  plan: { says: "plans of sixty days against the least minutes there are", run: () => import("./plan") },
  versions: { says: "what owners wait for, in another checkout and in this one, in turns", run: () => import("./versions") },
  "plan-beside": { says: "pages while a better plan is looked for", run: () => import("./planBeside") },
};

const name = process.argv[2] ?? "";
const bench = BENCHES[name];
if (bench) await bench.run();
else {
  const width = Math.max(...Object.keys(BENCHES).map((n) => n.length));
  const lines = Object.entries(BENCHES).map(([n, { says }]) => `  npm run bench -- ${n.padEnd(width)}  ${says}`);
  process.stdout.write(`${[name ? `There is no benchmark "${name}".` : "Benchmarks:", ...lines].join("\n")}\n`);
  if (name) process.exitCode = 2;
}

export {};
