/** A one-time key. `crypto.randomUUID` is missing on plain http in a workshop's network, where this must work as well. */
export function oneTimeKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
}
