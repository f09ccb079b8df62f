/** Trouble of the disk, told from other errors: the screens say it in its own words and keep what was typed. */
export { isTrouble } from "#store/trouble";
