import { useEffect, useState } from "react";

/** False when something is drawn first, true a moment after it is seen: what is large is drawn in two tasks, its frame first. */
export function useSoon(): boolean {
  const [soon, setSoon] = useState(false);
  useEffect(() => {
    let later = 0;
    const frame = requestAnimationFrame(() => {
      later = window.setTimeout(() => setSoon(true));
    });
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(later);
    };
  }, []);
  return soon;
}
