import { startTransition, useEffect, useState } from "react";
import { nextTask } from "../basis/next-task";

/** False when something is drawn first, true a moment after it is seen: what is large is drawn in two tasks, its frame first, and what comes then in as many as it takes. */
export function useSoon(): boolean {
  const [soon, setSoon] = useState(false);
  useEffect(() => {
    let gone = false;
    const frame = requestAnimationFrame(async () => {
      await nextTask();
      if (!gone) startTransition(() => setSoon(true));
    });
    return () => {
      gone = true;
      cancelAnimationFrame(frame);
    };
  }, []);
  return soon;
}
