/** Every kind of record the log knows, one definition each. A kind of core/events that is missing here does not compile. */
import type { EventKind } from "#core/events";
import { bedMap } from "./bedMap";
import { cost } from "./cost";
import { coupon } from "./coupon";
import { cut } from "./cut";
import type { EventKindDefinition } from "./definition";
import { grade } from "./grade";
import { hours } from "./hours";
import { job } from "./job";
import { ladder } from "./ladder";
import { note } from "./note";
import { power } from "./power";
import { probe } from "./probe";
import { airflow, coolant, current } from "./reading";
import { engraving, focus, tape } from "./seen";
import { service } from "./service";
import { setting } from "./setting";

export const eventKinds = {
  hours,
  job,
  cut,
  ladder,
  "bed-map": bedMap,
  engraving,
  focus,
  power,
  probe,
  current,
  coolant,
  airflow,
  tape,
  grade,
  service,
  setting,
  cost,
  coupon,
  note,
} satisfies {
  readonly [K in EventKind]: EventKindDefinition<K>;
};

/** Kinds an owner enters by hand, in the order the log offers them. */
export const ENTRY_KINDS = [
  "job",
  "hours",
  "cut",
  "ladder",
  "grade",
  "service",
  "power",
  "probe",
  "current",
  "coolant",
  "airflow",
  "engraving",
  "focus",
  "tape",
  "bed-map",
  "setting",
  "cost",
  "coupon",
  "note",
] as const satisfies readonly EventKind[];
export type EntryKind = (typeof ENTRY_KINDS)[number];

export const isEntryKind = (kind: string | null | undefined): kind is EntryKind => ENTRY_KINDS.includes(kind as EntryKind);
