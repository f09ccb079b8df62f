/** What was typed into a field before the page was awake: nobody was told of it then, so it is told once the page is. */
import { useEffect } from "react";

interface Props {
  readonly id: string;
  /** What the page takes to stand in the field. */
  readonly known: string;
  readonly tell: (text: string) => void;
}

/** Stands beside the field it is for, and shows nothing. */
export function TypedEarly({ id, known, tell }: Props) {
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, as the page wakes up; from then on every change is told by itself
  useEffect(() => {
    const field = document.getElementById(id);
    if (field instanceof HTMLInputElement && field.value !== known) tell(field.value);
  }, []);
  return null;
}
