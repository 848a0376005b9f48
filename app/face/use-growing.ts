import { useEffect, useState } from "react";

/** So many are drawn at once; the rest follows, as many with each frame. */
const AT_ONCE = 150;

/** A list that is drawn bit by bit where it is long, so that thousands don't stop the page; another `key` begins anew. */
export function useGrowing<T>(list: readonly T[], key: string | null): readonly T[] {
  const [grown, setGrown] = useState({ key, count: AT_ONCE });
  const count = grown.key === key ? grown.count : AT_ONCE;
  const missing = count < list.length;
  useEffect(() => {
    if (!missing) return;
    const frame = requestAnimationFrame(() => setGrown({ key, count: count + AT_ONCE }));
    return () => cancelAnimationFrame(frame);
  }, [missing, key, count]);
  return missing ? list.slice(0, count) : list;
}
