import type { ColumnType, Generated, Kysely } from "kysely";

/** Column types of the database, for Kysely. Times are ms since 1970; structured columns hold JSON text. */
export interface Tables {
  machine: {
    id: Generated<number>;
    slug: string;
    name: string;
    layout: string;
    rated_power_w: number;
    rated_tube_hours: number;
    path: string | null;
    fittings: string | null;
    created_ms: number;
    request_key: string;
  };
  material: {
    id: Generated<number>;
    machine_id: number;
    name: string;
    kind: string;
    thickness_mm: number;
    beta: ColumnType<number, number | undefined, number>;
    usual_speed_mm_per_s: number | null;
    usual_set_percent: number | null;
    smoke_optics: number | null;
    smoke_nozzle: number | null;
    hidden: ColumnType<number, number | undefined, number>;
  };
  event: {
    id: Generated<number>;
    machine_id: number;
    kind: string;
    at_ms: number;
    recorded_ms: number;
    payload: string;
    corrects: number | null;
    voids: ColumnType<number, number | undefined, number>;
    round_id: number | null;
    case_id: number | null;
    request_key: string;
  };
  round: {
    id: Generated<number>;
    machine_id: number;
    title: string;
    parts: string;
    plan: string | null;
    status: "open" | "closed" | "abandoned";
    started_ms: number;
    ended_ms: number | null;
    case_id: number | null;
    request_key: string;
  };
  round_answer: {
    id: Generated<number>;
    round_id: number;
    step_id: string;
    answer: string;
    at_ms: number;
    request_key: string;
  };
  trace_case: {
    id: Generated<number>;
    machine_id: number;
    number: number;
    title: string;
    sign: string;
    symptom: string;
    onset_ms: number;
    opened_ms: number;
    closed_ms: number | null;
    closing: string | null;
    request_key: string;
  };
  finding: {
    id: Generated<number>;
    case_id: number;
    check_id: string;
    outcome: string | null;
    value: number | null;
    set_percent: number | null;
    at_ms: number;
    withdrawn_ms: number | null;
    request_key: string;
  };
  aim_sitting: {
    id: Generated<number>;
    machine_id: number;
    case_id: number | null;
    started_ms: number;
    ended_ms: number | null;
    ending: string | null;
    request_key: string;
  };
  aim_entry: {
    id: Generated<number>;
    sitting_id: number;
    entry: string;
    at_ms: number;
    withdrawn_ms: number | null;
    request_key: string;
  };
  photo: {
    hash: string;
    mime: string;
    byte_count: number;
    width_px: number;
    height_px: number;
    created_ms: number;
  };
  setting: {
    name: string;
    value: string;
  };
  session: {
    id: Generated<number>;
    token_hash: string;
    device: string;
    address: string;
    created_ms: number;
    seen_ms: number;
  };
  sent_form: {
    form: string;
    key: string;
    digest: string;
    answer: string | null;
    at_ms: number;
  };
}

/** A connection to the database of a workshop, or a transaction in it. */
export type Store = Kysely<Tables>;
