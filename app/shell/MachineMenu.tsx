/** The machine in view, and behind its name the others, its workshop, and the way out. */
import DownOutlined from "@ant-design/icons/es/icons/DownOutlined";
import { Button, Dropdown } from "antd";
import { useSyncExternalStore } from "react";
import { Link, useSubmit } from "react-router";
import { chooseLook, chosenLook, LOOKS, listenToLook } from "../ui/look";

const LOOK_WORDS = { device: "Light or dark as this device", light: "Light", dark: "Dark" } as const;

export function MachineMenu({
  slug,
  name,
  place,
  machines,
  signedIn,
}: {
  slug: string;
  name: string;
  /** Where another machine is shown: the same place of it. */
  place: string;
  machines: readonly { readonly slug: string; readonly name: string }[];
  signedIn: boolean;
}) {
  const submit = useSubmit();
  const signOut = () => void submit({}, { method: "post", action: "/sign-in?out" });
  const look = useSyncExternalStore(listenToLook, chosenLook, () => "device" as const);
  const items = [
    ...machines.map((m) => ({
      key: m.slug,
      label: <Link to={`/${m.slug}/${place}`}>{m.name}</Link>,
      className: m.slug === slug ? "menu-here" : "",
    })),
    { type: "divider" as const },
    ...(machines.length > 1 ? [{ key: "all", label: <Link to={`/${slug}/machines`}>All machines in a row</Link> }] : []),
    { key: "workshop", label: <Link to={`/${slug}/workshop`}>Workshop of {name}</Link> },
    { key: "add", label: <Link to="/start">Add a machine</Link> },
    { type: "divider" as const },
    ...LOOKS.map((l) => ({ key: l, label: LOOK_WORDS[l], onClick: () => chooseLook(l), className: l === look ? "menu-here" : "" })),
    ...(signedIn ? [{ key: "out", label: "Sign out", onClick: signOut }] : []),
  ];
  return (
    <Dropdown menu={{ items }} trigger={["click"]} placement="bottomRight">
      <Button
        ghost
        className="machine-name"
        aria-label={`${name}: other machines and the workshop`}
        icon={<DownOutlined />}
        iconPlacement="end"
      >
        {name}
      </Button>
    </Dropdown>
  );
}
