import { GRADES, type Grade } from "#core/beam";

/** A part that light passes or is turned by; what stands off the path is graded by wear, not by the light it costs. */
export function isOptic(station: string): boolean {
  return station === "lens" || station === "window" || station === "side-window" || station.startsWith("mirror-");
}

/** The grades of rails, fans, filters, nozzle and bed: they wear and clog, they are not looked through. */
export const WEAR_GRADES = ["clean", "dusty", "sticky", "caked", "worn or broken"] as const;

/** The word of a grade for what it is given to. */
export function gradeWordFor(station: string | undefined, grade: Grade): string {
  return station === undefined || isOptic(station) ? GRADES[grade] : WEAR_GRADES[grade];
}

/** What stops the beam though no light passes it. */
const BROKEN_OFF_THE_PATH: Readonly<Record<string, string>> = {
  tube: "Stop here. Leave it unplugged, take a photo, and ask the tube's supplier or a qualified person.",
  exhaust: "Do not cut without exhaust: the smoke stays in the room. Take a photo and order the part.",
};

/** What a grade asks for, said where the grade is given. Grade 4 on an optic stops use of the beam. */
export function gradeAdvice(station: string, phase: "as-found" | "as-left", grade: Grade): { text: string; stop: boolean } | undefined {
  if (!isOptic(station)) {
    const stop = grade === 4 ? BROKEN_OFF_THE_PATH[station] : undefined;
    if (stop !== undefined) return { text: stop, stop: true };
    if (grade === 4) return { text: "Worn, bent or broken: photo, order the part, and do not run what rubs or binds.", stop: false };
    if (grade === 3 && phase === "as-left") return { text: "Still caked: once more, or take it out for a proper clean.", stop: false };
    return undefined;
  }
  if (grade === 4) {
    return {
      text: "Stop here: do not fire with this part. Do not blow at, wipe or vacuum a cracked optic: mask and gloves, pick it up damp, sealed bag, hazardous waste. Take a photo and ask the maker or supplier.",
      stop: true,
    };
  }
  if (grade === 3 && phase === "as-found") {
    return {
      text: "Only a suspicion yet: clean it, then look again. A dark centre that stays is debris burnt into the coating.",
      stop: false,
    };
  }
  if (grade === 3) {
    if (station === "lens") return { text: "Spots that stay are burnt in: fit the spare lens now, this one will crack.", stop: false };
    if (station === "window") return { text: "Stop and ask the tube's supplier: spots on the exit window are the tube's own.", stop: true };
    return { text: "Order a spare and look at this one in every round.", stop: false };
  }
  return undefined;
}
