/** What stands on a beam path. A role added here does not compile until every place that tells roles apart has said what it does. */
export const STATION_ROLES = ["tube", "window", "mirror", "side-window", "lens", "nozzle"] as const;
export type StationRole = (typeof STATION_ROLES)[number];

/** What a role is to the beam. */
export interface RoleTraits {
  /** Share (0..1) a clean part passes; the tube and the nozzle pass everything. */
  readonly nominalTransmission: number;
  /** Light goes through or off it, so that dirt on it costs power and it is graded. */
  readonly isOptic: boolean;
  /** A meter can stand after it: the exit window is one place with its tube, and nothing fits under the nozzle. */
  readonly isMetered: boolean;
  /** A path may hold several. */
  readonly isRepeated: boolean;
}

export const ROLE_TRAITS: { readonly [R in StationRole]: RoleTraits } = {
  tube: { nominalTransmission: 1, isOptic: false, isMetered: true, isRepeated: false },
  window: { nominalTransmission: 0.99, isOptic: true, isMetered: false, isRepeated: false },
  mirror: { nominalTransmission: 0.985, isOptic: true, isMetered: true, isRepeated: true },
  "side-window": { nominalTransmission: 0.985, isOptic: true, isMetered: true, isRepeated: false },
  lens: { nominalTransmission: 0.975, isOptic: true, isMetered: true, isRepeated: false },
  nozzle: { nominalTransmission: 1, isOptic: false, isMetered: false, isRepeated: false },
};
