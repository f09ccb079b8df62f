/** The frame of a field: its label, what it takes, and below it what was wrong or a hint. */
import { Form } from "antd";
import { type ReactNode, useId } from "react";
import { useField } from "./state";

export interface Named {
  readonly name: string;
  readonly label: string;
  readonly hint?: ReactNode;
}

/** What an input needs to be tied to its frame. */
export interface FieldParts {
  readonly id: string;
  /** What was typed before, if it was not taken. */
  readonly typed: string | undefined;
  readonly aria: { readonly "aria-invalid"?: true; readonly "aria-describedby"?: string };
}

export function Field({
  name,
  label,
  hint,
  hideLabel,
  group,
  children,
}: Named & { hideLabel?: boolean; group?: boolean; children: (parts: FieldParts) => ReactNode }) {
  const id = useId();
  const { typed, error } = useField(name);
  // The server's words stand in `extra`: what the library itself would say of a field is not in a page from the server.
  const below = error ? (
    <span className="error" id={`${id}-error`} role="alert">
      {error}
    </span>
  ) : (
    hint
  );
  const aria = error ? { "aria-invalid": true as const, "aria-describedby": `${id}-error` } : {};
  return (
    <Form.Item
      label={<span className={hideLabel ? "sr" : ""}>{label}</span>}
      className={hideLabel ? "unlabelled" : ""}
      htmlFor={group ? "" : id}
      validateStatus={error ? "error" : ""}
      extra={below}
    >
      {children({ id, typed, aria })}
    </Form.Item>
  );
}
