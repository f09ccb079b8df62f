import { DAY_MS } from "#core/time";
import { answerView } from "../services/cases/answerView";
import { gather } from "#services/machine/gather";
import { addFinding, listFindings, openCase } from "#store/cases";
import { appendEvents } from "#store/events";
import { rungs, START, TestWorkshop } from "../services/testWorkshop";
import { Case, worldOf } from "./judge/world";
const NOW = START + 40 * DAY_MS;
const [layout, from, to] = [process.argv[2] as "periscope", Number(process.argv[3]), Number(process.argv[4])];
for (let seed = from; seed < to; seed++) {
  const c = new Case(worldOf(layout), seed);
  const w = await TestWorkshop.open(layout);
  w.day(40);
  await appendEvents(w.store, 1, [{ kind: "ladder", atMs: START + DAY_MS, payload: { materialId: 1, setPercent: 60, rungs: rungs(12), baseline: true }, requestKey: "l" }], NOW);
  const signs = c.signs().map(({ complaint: _, ...f }) => f);
  const id = await openCase(w.store, 1, { title: "weak", sign: "weak", symptom: "power", onsetMs: NOW - DAY_MS, requestKey: "c", findings: signs } as never, NOW - DAY_MS / 2);
  console.log(`\n##### ${layout} ${seed} truth ${c.machine.faults.map((f) => f.id).join("+")} mains ${[...c.mains].join()} signs ${signs.map((s) => s.outcome).join()}`);
  for (let n = 0; n < 40; n++) {
    const g = await gather(w.services, "larkspur");
    const open = g.openCases.find((x) => x.id === id)!;
    const v = await answerView({}, g, open, await listFindings(w.store, id));
    const card = v.next[0];
    console.log(`${n}. ${v.headline} || ${v.lead} || ${v.faults.slice(0, 3).map((f) => `${f.name} ${f.chance}`).join(", ")}; none ${v.none}`);
    if (v.suspect.length) console.log(`   DOUBT ${v.suspect.map((s) => s.text).join("; ")}`);
    if (v.repair) { console.log(`   REPAIR ${v.repair.name} (${v.repair.minutes} min): ${v.repair.because} along ${v.repair.alongWith.join("; ")}`); break; }
    if (!card) { console.log("   NOTHING LEFT", v.isWear, v.straight?.name); break; }
    const found = c.ask(card.id);
    console.log(`   ${card.title} (${card.minutes}) -> ${found?.outcome ?? found?.value?.toFixed(2)}   [${card.meanings.map((m) => `${m.outcome}: ${m.means}`).join(" | ")}]`);
    if (!found) { break; }
    const { complaint: _, ...plain } = found;
    await addFinding(w.store, id, plain as never, `a${n}`, NOW - 60_000 * (60 - n));
    if (c.brings(found)) { const v2 = await answerView({}, await gather(w.services, "larkspur"), open, await listFindings(w.store, id)); console.log("   TRIED", v2.headline, v2.lead); break; }
  }
}
process.exit(0);
