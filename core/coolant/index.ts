/**
 * # Coolant (M8)
 * Answers: how much glycol a loop needs for its coldest night, what filling, draining and topping up make of it, how much heat the water
 * carries, and when the tube sweats. Freezing points and heat capacities are handbook tables of propylene glycol by volume, linear between
 * their rows; the dew point is Magnus's formula (17.62, 243.12 °C). Shares are 0 to 1, volumes litres, temperatures °C.
 */
export * from "./heat";
export * from "./mix";
