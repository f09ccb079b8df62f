/** Beside a figure that is not shown in the unit it is kept in: which unit it stands in, and what it was filled with as it is kept. */
import { UNIT_BESIDE, unitHere, WAS_BESIDE } from "#services/units";

export function UnitBeside({
  name,
  unit,
  shown,
  kept,
}: {
  name: string;
  unit: string;
  shown?: string | undefined;
  kept?: string | undefined;
}) {
  const here = unitHere(unit);
  if (here === unit) return null;
  return (
    <>
      <input type="hidden" name={name + UNIT_BESIDE} value={here} />
      {kept === undefined || kept === "" || shown === undefined ? null : (
        <input type="hidden" name={name + WAS_BESIDE} value={`${shown}=${kept}`} />
      )}
    </>
  );
}
