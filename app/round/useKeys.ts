import { useEffect, useRef } from "react";
import type { Grade } from "#core/beam";
import type { Running } from "./useRunner";

/** Single keys at the machine: they work while nobody types and nothing lies over the page. */
export function useKeys(running: Running, open: boolean): void {
  const latest = useRef(running);
  latest.current = running;
  useEffect(() => {
    if (!open) return;
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.closest("input:not([type=checkbox]):not([type=radio]), textarea, [role=combobox], .ant-modal");
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === " " && target.closest("button, a, summary, input, label, [role=button]")) return;
      if (press(latest.current, event.key)) event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [open]);
}

/** Does what a key stands for; false where it stands for nothing. */
function press(r: Running, key: string): boolean {
  // The first press gives the tick that the button asks for, the next goes on.
  if (key === " " && r.hold === "tick") r.tick.set(true);
  else if (key === " ") r.done();
  else if (key === "Backspace") r.move(r.at - 1);
  else if (key === "t" || key === "T") r.startTimer();
  else if (key === "p" || key === "P") r.camera.current?.click();
  else if (r.step.kind === "grade" && /^[1-5]$/.test(key)) r.pick((Number(key) - 1) as Grade);
  else return false;
  return true;
}
