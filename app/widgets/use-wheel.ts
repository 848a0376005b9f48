import { type RefObject, useEffect, useRef } from "react";

/** Pixels of a trackpad that count as one notch of a wheel. */
const NOTCH = 50;

/** Whole notches of a wheel, +1 towards the person; the small steps of a trackpad are summed until they make one. */
export class Notches {
  private sum = 0;

  /** Takes an event's distance (its `deltaMode` 0: pixels, else lines or pages). */
  add(delta: number, mode: number): number {
    if (mode !== 0 || Math.abs(delta) >= 2 * NOTCH) {
      this.sum = 0;
      return Math.sign(delta) * (mode === 0 ? Math.round(Math.abs(delta) / (2 * NOTCH)) : 1);
    }
    if (Math.sign(delta) !== Math.sign(this.sum)) this.sum = 0;
    this.sum += delta;
    // Never minus nothing.
    const notches = Math.trunc(this.sum / NOTCH) + 0;
    this.sum -= notches * NOTCH;
    return notches;
  }
}

/** Listens to the wheel over an element, able to keep the page from scrolling or zooming by it, which React's own listeners are not. */
export function useWheel(
  element: RefObject<HTMLElement | SVGElement | null>,
  turned: (event: WheelEvent, notches: number) => void,
): void {
  const latest = useRef(turned);
  latest.current = turned;
  useEffect(() => {
    const { current } = element;
    if (!current) return;
    const sum = new Notches();
    const listen = (event: Event) => {
      const wheel = event as WheelEvent;
      latest.current(wheel, sum.add(wheel.deltaY || wheel.deltaX, wheel.deltaMode));
    };
    current.addEventListener("wheel", listen, { passive: false });
    return () => current.removeEventListener("wheel", listen);
  }, [element]);
}

/** Lets a wheel turn the value of a control that has the focus, and of no other: whoever scrolls past it changes nothing. */
export function useValueWheel(
  element: RefObject<HTMLElement | null>,
  turn: (notches: number, fine: boolean) => void,
): void {
  useWheel(element, (event, notches) => {
    if (document.activeElement !== element.current) return;
    event.preventDefault();
    if (notches !== 0) turn(-notches, event.shiftKey);
  });
}
