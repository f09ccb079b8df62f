/** Keeps the screen on while hands are full: by the browser's wake lock, or, on plain http where that is missing, by a silent film. */
import { useEffect } from "react";

export function useAwake(on: boolean): void {
  useEffect(() => {
    if (!on) return;
    if (!("wakeLock" in navigator)) {
      let stop: (() => void) | undefined;
      let gone = false;
      void import("nosleep.js").then(({ default: NoSleep }) => {
        if (gone) return;
        const film = new NoSleep();
        // A film may start only from a touch.
        const start = () => void film.enable().catch(() => undefined);
        document.addEventListener("pointerdown", start, { once: true });
        stop = () => {
          document.removeEventListener("pointerdown", start);
          if (film.isEnabled) film.disable();
        };
      });
      return () => {
        gone = true;
        stop?.();
      };
    }
    let lock: WakeLockSentinel | undefined;
    const hold = () => {
      if (document.visibilityState !== "visible") return;
      navigator.wakeLock.request("screen").then(
        (l) => {
          lock = l;
        },
        () => undefined,
      );
    };
    hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, [on]);
}
