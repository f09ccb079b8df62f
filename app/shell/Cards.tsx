/** Cards over the page: what to do in an emergency, and the keys. */
import { Modal } from "antd";
import { Manual } from "../ui/Manual";

export type OpenCard = "emergency" | "keys" | undefined;

export function Cards({ open, ...rest }: Omit<EmergencyProps, "open"> & { open: NonNullable<OpenCard> }) {
  return open === "keys" ? <KeysCard open onClose={rest.onClose} /> : <EmergencyCard open {...rest} />;
}

interface EmergencyProps {
  open: boolean;
  powerW: number;
  manual: string | undefined;
  onClose: () => void;
}

function EmergencyCard({ open, powerW, manual, onClose }: EmergencyProps) {
  return (
    <Modal open={open} onCancel={onClose} footer={null} title="Emergency" width={640}>
      <ul className="lines">
        <li>
          <b>Fire.</b> Shut the lid, switch off at the wall, use the extinguisher. If it does not go out at once, leave and call the fire
          brigade.
        </li>
        <li>
          <b>Electric shock.</b> Do not touch the person or the machine: switch off at the wall first. Call an ambulance. If they do not
          breathe, begin resuscitation. The power supply can still hold a charge.
        </li>
        <li>
          <b>Beam in the eye or on the skin.</b> Do not rub. See a doctor at once and say: carbon dioxide laser, 10.6 micrometre, {powerW}{" "}
          watts.
        </li>
        <li>
          <b>Cracked optic.</b> Do not blow, wipe or vacuum. Put a mask and gloves on, pick it up with a damp tissue, put it into a sealed
          bag, treat it as hazardous waste.
        </li>
        <li>
          <b>Coolant leak.</b> With dry hands, switch off at the wall first. Then see to the water.
        </li>
        <li>
          <b>Chemical splash.</b> Rinse with running water for 15 minutes and take the label to a doctor.
        </li>
      </ul>
      <p className="soft small">Local emergency numbers, the maker's manual and qualified people come first.</p>
      {manual ? (
        <p>
          <Manual at={manual} />
        </p>
      ) : null}
    </Modal>
  );
}

function KeysCard({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Modal open={open} onCancel={onClose} footer={null} title="Keys" width={480}>
      <ul className="lines">
        <li>
          <kbd>e</kbd> emergency card
        </li>
        <li>
          <kbd>g</kbd> to Today
        </li>
        <li>
          In a round: <kbd>Space</kbd> next step, <kbd>Backspace</kbd> back, <kbd>1</kbd> to <kbd>5</kbd> the grades, <kbd>T</kbd> timer,{" "}
          <kbd>P</kbd> photo
        </li>
        <li>
          On a ring of marks: the <kbd>arrow keys</kbd> move the mark, with <kbd>Shift</kbd> by a millimetre
        </li>
      </ul>
    </Modal>
  );
}
