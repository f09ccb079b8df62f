/** A link that looks like a button: another page of the application without loading it anew. */
import { Button, type ButtonProps } from "antd";
import { useHref, useLinkClickHandler } from "react-router";

interface Props extends Omit<ButtonProps, "href" | "onClick" | "htmlType"> {
  readonly to: string;
  readonly preventScrollReset?: boolean;
}

export function LinkButton({ to, preventScrollReset = false, ...rest }: Props) {
  const href = useHref(to);
  const follow = useLinkClickHandler(to, { preventScrollReset });
  return <Button {...rest} href={href} onClick={(event) => follow(event as React.MouseEvent<HTMLAnchorElement>)} />;
}
