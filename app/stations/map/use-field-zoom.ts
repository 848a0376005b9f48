import type { RefObject } from "react";
import { settleAxis } from "../../state/key-axis";
import { settleVelocities } from "../../state/velocity-axis";
import { setView, useView } from "../../state/view";
import { useWheel } from "../../widgets/use-wheel";

/** The wheel over the field: scrolls keys, or velocities where not all are shown (with Shift keys); with Ctrl it zooms keys, with Alt velocities. */
export function useFieldZoom(frame: RefObject<HTMLElement | null>, width: number, height: number): void {
  useWheel(frame, (event, notches) => {
    event.preventDefault();
    const bounds = frame.current?.getBoundingClientRect();
    if (!bounds || notches === 0) return;
    const { keyLow, keyCount, velFrom, velTo } = useView.getState();
    const across = (event.clientX - bounds.left) / width;
    const up = 1 - (event.clientY - bounds.top) / height;
    const size = velTo - velFrom;
    if (event.altKey) {
      const count = size * 1.15 ** notches;
      setView(settleVelocities(velFrom + up * (size - count), count));
    } else if (event.ctrlKey || event.metaKey) {
      const count = keyCount * 1.12 ** notches;
      setView(settleAxis(keyLow + across * (keyCount - count), count));
    } else if (event.shiftKey || size >= 127) setView(settleAxis(keyLow + notches * 2, keyCount));
    else setView(settleVelocities(velFrom - (notches * size) / 12, size));
  });
}
