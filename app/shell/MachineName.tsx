/** The name of the machine in view as a button; its menu comes when it is asked for first, however early that is. */
import DownOutlined from "@ant-design/icons/es/icons/DownOutlined";
import { Button, type ButtonProps } from "antd";
import { Suspense, useState } from "react";
import { fetched } from "../ui/fetched";

export interface InView {
  readonly slug: string;
  readonly name: string;
  /** Where another machine is shown: the same place of it. */
  readonly place: string;
  readonly machines: readonly { readonly slug: string; readonly name: string }[];
  readonly signedIn: boolean;
}

const MachineMenu = fetched(() => import("./MachineMenu").then((m) => m.MachineMenu));

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
