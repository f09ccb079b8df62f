/**
 * # Time
 * Answers: how many milliseconds a minute, an hour and a day have. Days of a calendar are longer or shorter by an hour twice a year;
 * where that matters, a calendar is asked.
 */
export const MINUTE_MS = 60_000;
export const HOUR_MS = 60 * MINUTE_MS;
export const DAY_MS = 24 * HOUR_MS;
