/** The machine in view; its menu comes when it is asked for first, and opens then, however early that was. */
import { Suspense, useState } from "react";
import { fetched } from "../ui/fetched";
import { type InView, MachineName } from "./MachineName";

const MachineMenu = fetched(() => import("./MachineMenu").then((m) => m.MachineMenu));

export function Machine(inView: InView) {
  const [isWanted, setWanted] = useState(false);
  const button = <MachineName name={inView.name} onClick={() => setWanted(true)} aria-haspopup="menu" />;
  if (!isWanted) return button;
  return (
    <Suspense fallback={button}>
      <MachineMenu {...inView} />
    </Suspense>
  );
}
