let pressed = false;
const press = (down: boolean) => () => {
  pressed = down;
};
globalThis.addEventListener?.("pointerdown", press(true), true);
for (const end of ["pointerup", "pointercancel"]) globalThis.addEventListener?.(end, press(false), true);
// Not of what is inside: pressing something takes the focus from something else.
globalThis.addEventListener?.("blur", press(false));

/** Whether a pointer is down: something may be dragged. */
export const pointerIsDown = (): boolean => pressed;
