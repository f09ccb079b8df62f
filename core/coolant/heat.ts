/** What the coolant carries: heat and flow, the tube's load, warm-water loss and the room's dew point. */

/** Heat capacity by volume, MJ/(m³ K), by the share of glycol. */
const CAPACITY: readonly (readonly [share: number, mjPerM3K: number])[] = [
  [0, 4.17],
  [0.3, 3.91],
  [0.5, 3.72],
];
const LPM_TO_M3S = 1 / 60_000;
/** Share of its electrical power that a tube gives as light, the supply's own loss not counted. */
export const TUBE_EFFICIENCY = 0.18;
/** Light lost for each degree above 20. */
const LOSS_PER_C = 0.007;
const BEST_C = 20;
export const WARN_C = 25;
export const STOP_C = 30;

function capacityOf(share: number): number {
  const s = Math.min(0.5, Math.max(0, share));
  const i = Math.max(
    1,
    CAPACITY.findIndex(([at]) => at >= s - 1e-12),
  );
  const [[s0, c0], [s1, c1]] = [CAPACITY[i - 1]!, CAPACITY[i]!];
  return (c0 + ((s - s0) * (c1 - c0)) / (s1 - s0)) * 1e6;
}

/** Heat (W) that a flow (L/min) carries at a rise of temperature (K). @example heatCarried(2, 3, 0) // 417 W */
export const heatCarried = (flowLpm: number, riseK: number, share: number): number => capacityOf(share) * flowLpm * LPM_TO_M3S * riseK;

/** Heat (W) a tube makes beside its light. @example tubeHeat(80) // 364 W */
export const tubeHeat = (lightW: number, efficiency = TUBE_EFFICIENCY): number => lightW / efficiency - lightW;

/** Rise of temperature (K) of a flow that carries a heat. */
export const expectedRise = (heatW: number, flowLpm: number, share: number): number => heatW / (capacityOf(share) * flowLpm * LPM_TO_M3S);

/** Flow (L/min) that a measured rise says: of a tube's heat at full power. */
export const flowFromRise = (heatW: number, riseK: number, share: number): number => heatW / (capacityOf(share) * riseK * LPM_TO_M3S);

/** Flow of a bucket and a watch. */
export const flowByBucket = (litres: number, seconds: number): number => (60 * litres) / seconds;

/** Share (0..1) of the light that warm water takes. */
export const warmLoss = (temperatureC: number): number => Math.max(0, LOSS_PER_C * (temperatureC - BEST_C));

/** Dew point (°C) of a room at a temperature and a relative humidity (0..1]. @example dewPoint(25, 0.6) // 16.7 */
export function dewPoint(roomC: number, humidity: number): number {
  const a = Math.log(humidity) + (17.62 * roomC) / (243.12 + roomC);
  return (243.12 * a) / (17.62 - a);
}

export type CoolantState = "sweats" | "cold" | "good" | "warm" | "stop";

/** How a temperature stands: at or below the dew point water condenses on the tube; at 30 °C it stops. */
export function coolantState(temperatureC: number, dewC: number | undefined): CoolantState {
  if (dewC !== undefined && temperatureC <= dewC) return "sweats";
  if (temperatureC >= STOP_C) return "stop";
  if (temperatureC >= WARN_C) return "warm";
  return temperatureC < 10 ? "cold" : "good";
}
