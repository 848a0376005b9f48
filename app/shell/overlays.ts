import { create } from "zustand";

/** Which panel lies over the work; null for none. */
export const useOverlays = create<{ readonly open: "shortcuts" | "palette" | "midi" | null }>(() => ({ open: null }));
