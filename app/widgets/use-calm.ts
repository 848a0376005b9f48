import { useEffect, useLayoutEffect, useRef, useState } from "react";

/** Whether a pointer is down: something may be dragged. */
let pressed = false;
const press = (down: boolean) => () => {
  pressed = down;
};
globalThis.addEventListener?.("pointerdown", press(true), true);
for (const end of ["pointerup", "pointercancel"]) globalThis.addEventListener?.(end, press(false), true);
// Not of what is inside: pressing something takes the focus from something else.
globalThis.addEventListener?.("blur", press(false));

/**
 * A value that follows another at once, but while a pointer is down no oftener than every so many milliseconds: for what stands beside something that is dragged.
 * The last value always comes.
 */
export function useCalm<T>(value: T, every: number): T {
  const [calm, setCalm] = useState(value);
  const latest = useRef(value);
  const last = useRef(Number.NEGATIVE_INFINITY);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useLayoutEffect(() => {
    latest.current = value;
    if (timer.current !== null) {
      if (pressed) return;
      clearTimeout(timer.current);
    }
    const show = () => {
      timer.current = null;
      last.current = performance.now();
      setCalm(() => latest.current);
    };
    // Keys that are held go on from what is shown: they must see every step.
    const wait = pressed ? last.current + every - performance.now() : 0;
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
