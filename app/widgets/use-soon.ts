import { startTransition, useEffect, useState } from "react";
import { nextTask } from "../basis/next-task";

/** Milliseconds after which it is drawn at once: what is drawn bit by bit begins anew whenever something else on the page changes, as meters do all the time. */
const AT_LAST = 300;

/** False when something is drawn first, true a moment after it is seen: what is large is drawn in two tasks, its frame first, and what comes then in as many as it takes. */
export function useSoon(): boolean {
  const [soon, setSoon] = useState(false);
  useEffect(() => {
    let gone = false;
    let last: ReturnType<typeof setTimeout> | null = null;
    const frame = requestAnimationFrame(async () => {
      await nextTask();
      if (gone) return;
      startTransition(() => setSoon(true));
      last = setTimeout(() => setSoon(true), AT_LAST);
    });
    return () => {
      gone = true;
      cancelAnimationFrame(frame);
      if (last !== null) clearTimeout(last);
    };
  }, []);
  return soon;
}
