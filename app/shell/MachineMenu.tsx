/** The machine in view, and behind its name the others, its workshop, and the way out. */
import { Dropdown } from "antd";
import { useState, useSyncExternalStore } from "react";
import { Link, useSubmit } from "react-router";
import { chooseLook, chosenLook, LOOKS, listenToLook } from "../ui/look";
import { type InView, MachineName } from "./MachineName";

const LOOK_WORDS = { device: "Light or dark as this device", light: "Light", dark: "Dark" } as const;

/** It comes when it is first asked for, and is open then; its button takes the place, and the focus, of the one that was pressed. */
export function MachineMenu({ slug, name, place, machines, signedIn }: InView) {
  const [isOpen, setOpen] = useState(true);
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
    <Dropdown menu={{ items }} trigger={["click"]} placement="bottomRight" open={isOpen} onOpenChange={setOpen}>
      <MachineName name={name} autoFocus />
    </Dropdown>
  );
}
