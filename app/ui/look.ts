/** Light or dark: as the device wishes, or as chosen on it. The choice stays in this browser and is in force before a page is drawn. */

export const LOOKS = ["device", "light", "dark"] as const;
export type Look = (typeof LOOKS)[number];

const KEPT = "look";

/** Runs in the head of every page. */
export const LOOK_SCRIPT = `try{var l=localStorage.getItem("${KEPT}");if(l==="light"||l==="dark")document.documentElement.dataset.look=l}catch(e){}`;

/** The look that was chosen here. */
export function chosenLook(): Look {
  const look = document.documentElement.dataset.look;
  return look === "light" || look === "dark" ? look : "device";
}

export function chooseLook(look: Look): void {
  if (look === "device") delete document.documentElement.dataset.look;
  else document.documentElement.dataset.look = look;
  try {
    if (look === "device") localStorage.removeItem(KEPT);
    else localStorage.setItem(KEPT, look);
  } catch {
    // A browser that keeps nothing has it until the page is loaded anew.
  }
  window.dispatchEvent(new Event(LOOK_CHANGED));
}

/** Told to the window when another look was chosen. */
const LOOK_CHANGED = "clenor-look";

/** Listens for another look; gives what stops it. */
export function listenToLook(tell: () => void): () => void {
  window.addEventListener(LOOK_CHANGED, tell);
  return () => window.removeEventListener(LOOK_CHANGED, tell);
}
