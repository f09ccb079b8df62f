/**
 * # One line of the log
 * Answers: what does a line of text say happened. A small grammar of the trade: figures with units, materials, parts and results; no
 * learning, no guessing. What it understood is given back in words before anything is kept.
 */
export { completions, understand } from "./understand";
export type { SpokenMaterial, SpokenPlace, Understood, Vocabulary } from "./vocabulary";
