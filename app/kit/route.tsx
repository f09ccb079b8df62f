/** Kit: what is needed now and then, each with one sentence of when. */
import "./kit.css";
import { Link } from "react-router";
import { MachineRail } from "../ui/MachineRail";

const TOOLS = [
  { to: "gate", name: "Will it cut through?", when: "Before a long job: how likely the cut drops out today, and the cheapest way on." },
  {
    to: "aim",
    name: "Alignment",
    when: "The beam is weaker far from the tube, or a mount was opened: which screw to turn, how far, which way.",
  },
  { to: "coupons", name: "Test files", when: "Ladder, square and circle, bed map, focus ramp, rings: the file to cut or to print." },
  {
    to: "mixes?tab=coolant",
    name: "Coolant",
    when: "Before a fill, a top-up or a frost: litres of glycol and water for this loop, heat and dew point.",
  },
  { to: "mixes?tab=wash", name: "Bed wash", when: "The bed is sticky: which cleaner, how it is mixed, what a wash takes." },
  {
    to: "mixes?tab=airflow",
    name: "Airflow",
    when: "Smoke stays, or after work on fan, duct or filter: what the duct carries and what takes it.",
  },
  { to: "mixes?tab=agents", name: "May I use this?", when: "Before a cleaner touches a part, or meets another cleaner." },
  { to: "mixes?tab=lens", name: "Lens side and focus", when: "The lens is out: which side looks up, and what the wrong one costs." },
  { to: "glossary", name: "Words", when: "A trade word you do not know: each with a sentence, some with a picture." },
] as const;

export function meta() {
  return [{ title: "Kit · Clenor" }];
}

export default function Kit() {
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div>
          <h1 className="verdict">Kit: what you need now and then.</h1>
        </div>
        <ul>
          {TOOLS.map((t) => (
            <li key={t.to}>
              <Link className="kit-tool" to={`../${t.to}`} relative="path">
                <b>{t.name}</b>
                <span className="soft">{t.when}</span>
              </Link>
            </li>
          ))}
        </ul>
      </main>
    </div>
  );
}
