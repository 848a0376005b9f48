import { useEffect, useState } from "react";
import { nextTask } from "../basis/next-task";

/** False when something is drawn first, true a moment after it is seen: what is large is drawn in two tasks, its frame first. */
export function useSoon(): boolean {
  const [soon, setSoon] = useState(false);
  useEffect(() => {
    let gone = false;
    const frame = requestAnimationFrame(async () => {
      await nextTask();
      if (!gone) setSoon(true);
    });
    return () => {
      gone = true;
      cancelAnimationFrame(frame);
    };
  }, []);
  return soon;
}
