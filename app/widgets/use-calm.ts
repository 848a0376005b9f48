import { useEffect, useLayoutEffect, useRef, useState } from "react";

/**
 * A value that follows another at once, but no oftener than every so many milliseconds: for what stands beside something that is dragged. The last value always
 * comes.
 */
export function useCalm<T>(value: T, every: number): T {
  const [calm, setCalm] = useState(value);
  const latest = useRef(value);
  const last = useRef(Number.NEGATIVE_INFINITY);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useLayoutEffect(() => {
    latest.current = value;
    if (timer.current !== null) return;
    const show = () => {
      timer.current = null;
      last.current = performance.now();
      setCalm(() => latest.current);
    };
    const wait = last.current + every - performance.now();
    if (wait <= 0) show();
    else timer.current = setTimeout(show, wait);
  }, [value, every]);
  useEffect(
    () => () => {
      if (timer.current !== null) clearTimeout(timer.current);
      timer.current = null;
    },
    [],
  );
  return calm;
}
