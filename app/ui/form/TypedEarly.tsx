/** What was typed into a field before the page, or the part it stands in, was awake: nobody was told of it then, so it is told once it is. */
import { useEffect } from "react";

interface Props {
  readonly id: string;
  /** What the page takes to stand in the field. */
  readonly known: string;
  /** Whoever holds the field's value; the field itself where it is left out. */
  readonly tell?: ((text: string) => void) | undefined;
}

type TextField = HTMLInputElement | HTMLTextAreaElement;

/** Types a text into a field as a person would, so that whoever draws it takes it as typed. */
function retype(field: TextField, text: string, known: string): void {
  const proto = field instanceof HTMLTextAreaElement ? HTMLTextAreaElement.prototype : HTMLInputElement.prototype;
  // As the page takes it to stand there, then as it does: that is a change.
  field.value = known;
  Object.getOwnPropertyDescriptor(proto, "value")?.set?.call(field, text);
  field.dispatchEvent(new Event("input", { bubbles: true }));
}

/** Stands beside the field it is for, and shows nothing. */
export function TypedEarly({ id, known, tell }: Props) {
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, as it wakes up; from then on every change is told by itself
  useEffect(() => {
    const field = document.getElementById(id);
    if (!(field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement) || field.value === known) return;
    if (tell) tell(field.value);
    else retype(field, field.value, known);
  }, []);
  return null;
}
