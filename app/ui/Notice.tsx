/** Words that must be seen where they stand: a caution at a step, what went wrong, what was saved. */
import { Alert } from "antd";
import type { ReactNode } from "react";

const KINDS = {
  caution: { type: "error", role: "note" },
  problem: { type: "error", role: "alert" },
  said: { type: "success", role: "status" },
  doubt: { type: "warning", role: "status" },
} as const;

/** `role` where it comes up while the page is looked at, and should be read out. */
export function Notice({ kind, children, role }: { kind: keyof typeof KINDS; children: ReactNode; role?: "alert" | "status" }) {
  const { type, role: usual } = KINDS[kind];
  return <Alert className={`notice ${kind}`} type={type} role={role ?? usual} showIcon={false} title={children} />;
}
