/** A file that was chosen before the page, or the part it stands in, was awake: nobody was told of it then, so it is told once it is. */
import { type ReactNode, useEffect, useRef } from "react";

export function ChosenEarly({ tell, children }: { tell: (file: File) => void; children: ReactNode }) {
  const box = useRef<HTMLSpanElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, as it wakes up; from then on every choice is told by itself
  useEffect(() => {
    const file = box.current?.querySelector<HTMLInputElement>("input[type=file]")?.files?.[0];
    if (file) tell(file);
  }, []);
  return <span ref={box}>{children}</span>;
}
