/** Share of answers that are slips of eye, hand or key: keeps every outcome possible. */
export const SLIP = 0.01;
