/** "Read from the bench": fills fields of the form it stands in from a simulated device. */
import { Button } from "antd";
import { useState } from "react";
import { useParams } from "react-router";
import { Notice } from "./Notice";

export function BenchRead({ device }: { device: "hours" | "current" | "coolant" }) {
  const { machine } = useParams();
  const [said, setSaid] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  const read = async (form: HTMLFormElement | null) => {
    setSaid(undefined);
    setWrong(undefined);
    try {
      const answer = await fetch(`/${machine}/bench/read/${device}`);
      if (!answer.ok) throw new Error((await answer.text()) || "The bench did not answer.");
      const values = (await answer.json()) as Record<string, number>;
      for (const [name, value] of Object.entries(values)) fill(form, name, String(value));
      setSaid("Read from the practice bench: simulated, not your machine.");
    } catch {
      setWrong("The bench did not answer. Type what your own meter shows.");
    }
  };
  return (
    <div className="row" role="status">
      <Button onClick={(e) => void read(e.currentTarget.closest("form"))}>Read from the bench</Button>
      {said ? <span className="soft small">{said}</span> : null}
      {wrong ? <Notice kind="problem">{wrong}</Notice> : null}
    </div>
  );
}

/** Puts a value into a field as if it had been typed. */
function fill(form: HTMLFormElement | null, name: string, value: string): void {
  const field = form?.querySelector<HTMLInputElement>(`input[name="${name}"]`);
  if (!field) return;
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set?.call(field, value);
  field.dispatchEvent(new Event("input", { bubbles: true }));
}
