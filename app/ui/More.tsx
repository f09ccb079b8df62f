/** Something more, folded away until it is asked for. It is in the page all the time, so that forms in it are posted and found. */
import { Collapse } from "antd";
import type { ReactNode } from "react";

export function More({ label, open, children }: { label: ReactNode; open?: boolean; children: ReactNode }) {
  return (
    <Collapse
      ghost
      className="more"
      defaultActiveKey={open ? ["more"] : []}
      items={[{ key: "more", label, children, forceRender: true }]}
    />
  );
}
