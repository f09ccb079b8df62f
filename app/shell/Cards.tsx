/** Cards over the page: what to do in an emergency, and the keys. They come with the page, so that they open without a network. */
import { Modal } from "antd";

export type OpenCard = "emergency" | "keys" | undefined;

export function EmergencyCard({ open, powerW, onClose }: { open: boolean; powerW: number; onClose: () => void }) {
  return (
    <Modal open={open} onCancel={onClose} footer={null} title="Emergency" width={640}>
      <ul className="lines">
        <li>
          <b>Fire.</b> Lid shut, power off at the wall, extinguisher. Not out at once: leave, fire brigade.
        </li>
        <li>
          <b>Beam in the eye or on the skin.</b> Do not rub. Doctor at once; say: carbon dioxide laser, 10.6 micrometre, {powerW} watts.
        </li>
        <li>
          <b>Cracked optic.</b> Do not blow, wipe or vacuum. Mask and gloves, pick it up damp, sealed bag, hazardous waste.
        </li>
        <li>
          <b>Coolant leak.</b> Mains off first, at the wall, dry hands. Then the water.
        </li>
        <li>
          <b>Chemical splash.</b> Rinse with running water for 15 minutes, label to the doctor.
        </li>
      </ul>
      <p className="soft small">Local emergency numbers, the maker's manual and qualified people come first.</p>
    </Modal>
  );
}

export function KeysCard({ open, onClose }: { open: boolean; onClose: () => void }) {
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
