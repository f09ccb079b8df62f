/** The name of the machine in view, as the button that opens its menu. */
import DownOutlined from "@ant-design/icons/es/icons/DownOutlined";
import { Button, type ButtonProps } from "antd";

export interface InView {
  readonly slug: string;
  readonly name: string;
  /** Where another machine is shown: the same place of it. */
  readonly place: string;
  readonly machines: readonly { readonly slug: string; readonly name: string }[];
  readonly signedIn: boolean;
}

export function MachineName({ name, ...rest }: Pick<InView, "name"> & ButtonProps) {
  return (
    <Button
      {...rest}
      ghost
      className={`machine-name ${rest.className ?? ""}`}
      aria-label={`${name}: other machines and the workshop`}
      icon={<DownOutlined />}
      iconPlacement="end"
    >
      {name}
    </Button>
  );
}
