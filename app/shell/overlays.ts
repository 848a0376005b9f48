import { create } from "zustand";

/** Which panel lies over the work, null for none; and at which parameter the reference opens (`filter/cutoff`), null at its beginning. */
export const useOverlays = create<{
  readonly open: "shortcuts" | "palette" | "midi" | "reference" | null;
  readonly at: string | null;
}>(() => ({ open: null, at: null }));

/** Opens the reference at the control that has the focus. */
export function openReference(): void {
  const at = document.activeElement?.closest<HTMLElement>("[data-reference]")?.dataset.reference ?? null;
  useOverlays.setState({ open: "reference", at });
}
