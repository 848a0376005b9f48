import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { nextTask } from "../basis/next-task";
import { pointerIsDown } from "../basis/pointer-down";

/** What stands beside may take so small a share of the time, and is never further behind than this in milliseconds. */
const SHARE = 1 / 10;
const LATEST = 500;
/** A frame of the screen, which everybody waits for. */
const FRAME = 17;

/** Milliseconds until it is to follow once more, where drawing it took so long, the frame in which it came included. */
export const paceOf = (every: number, took: number): number =>
  Math.min(LATEST, Math.max(every, (took - FRAME) / SHARE));

/**
 * A value that follows another at once, but while a pointer is down no oftener than every so many milliseconds: for what stands beside something that is dragged.
 * Where drawing it takes long, it follows more seldom, so that what is dragged stays under the pointer. The last value always comes.
 */
export function useCalm<T>(value: T, every: number): T {
  const [calm, setCalm] = useState(value);
  const latest = useRef(value);
  const next = useRef(Number.NEGATIVE_INFINITY);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useLayoutEffect(() => {
    latest.current = value;
    if (timer.current !== null) {
      if (pointerIsDown()) return;
      clearTimeout(timer.current);
    }
    const show = () => {
      const began = performance.now();
      next.current = began + every;
      setCalm(() => latest.current);
      // Behind the frame in which it is drawn.
      requestAnimationFrame(async () => {
        await nextTask();
        next.current = began + paceOf(every, performance.now() - began);
      });
    };
    // Keys that are held go on from what is shown: they must see every step. What has become due may be due later by now: the last took long.
    const look = () => {
      const wait = pointerIsDown() ? next.current - performance.now() : 0;
      timer.current = wait > 0 ? setTimeout(look, wait) : null;
      if (wait <= 0) show();
    };
    look();
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
