import { readFileSync } from "node:fs";

/** Jiffies of all cores since the machine began: those that other machines on the same hardware took, and all. Null where nobody counts. */
function jiffies(): { stolen: number; all: number } | null {
  try {
    const numbers = (readFileSync("/proc/stat", "utf8").split("\n")[0] ?? "").split(/\s+/).slice(1).map(Number);
    // user, nice, system, idle, iowait, irq, softirq, steal; what guests take is in the first two already.
    return { stolen: numbers[7] ?? 0, all: numbers.slice(0, 8).reduce((sum, x) => sum + x, 0) };
  } catch {
    return null;
  }
}

/** Begins to watch; what it returns says which share of the cores (0 to 1) others have taken since, null where nobody counts. */
export function watchStolen(): () => number | null {
  const before = jiffies();
  return () => {
    const now = jiffies();
    return before && now && now.all > before.all ? (now.stolen - before.stolen) / (now.all - before.all) : null;
  };
}
