/** Parts of a form that a person does not see: its key, where it is sent, what was wrong with the whole of it. */
import { Button, type ButtonProps } from "antd";
import type { ReactNode } from "react";
import { useFetcher } from "react-router";
import { Notice } from "../Notice";
import { useFormState } from "./state";

/** What is wrong with a form as a whole. */
export function FormProblem() {
  const { errors } = useFormState();
  return errors[""] ? <Notice kind="problem">{errors[""]}</Notice> : null;
}

/** A form that is carried out by another place and, done, leads there. Where it cannot be sent, this page stays. */
export function Posted({ action, children, className }: { action: string; children: ReactNode; className?: string }) {
  const fetcher = useFetcher();
  return (
    <fetcher.Form method="post" action={action} className={className}>
      {children}
    </fetcher.Form>
  );
}

/** The one-time key that makes a re-sent form one record. */
export function RequestKey({ value }: { value: string }) {
  return <input type="hidden" name="requestKey" value={value} />;
}

/** The button that sends the form it stands in. */
export function Submit(props: Omit<ButtonProps, "htmlType">) {
  return <Button {...props} htmlType="submit" />;
}
