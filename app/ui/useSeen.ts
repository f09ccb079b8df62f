import { type RefObject, useEffect, useRef, useState } from "react";

/** A screen ahead, so that it is there when it is scrolled to. */
const AHEAD = "800px";

/** Whether a part of the page has come into view; it stays seen from then on. */
export function useSeen<E extends Element>(): [RefObject<E | null>, boolean] {
  const place = useRef<E>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    if (!place.current || seen) return;
    const watch = new IntersectionObserver((entries) => setSeen(entries.some((e) => e.isIntersecting)), { rootMargin: AHEAD });
    watch.observe(place.current);
    return () => watch.disconnect();
  }, [seen]);
  return [place, seen];
}
