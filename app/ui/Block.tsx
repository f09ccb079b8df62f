/** A card with its contents one under the other; `strong` where it asks for something. With a label it is a region of the page. */
import { Card } from "antd";
import type { ReactNode } from "react";

export function Block({ strong, label, children }: { strong?: boolean; label?: string; children: ReactNode }) {
  const region = label === undefined ? {} : { role: "region", "aria-label": label };
  return (
    <Card {...region} className={strong ? "strong" : ""} classNames={{ body: "stack" }}>
      {children}
    </Card>
  );
}
