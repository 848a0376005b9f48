import { create } from "zustand";
import { reasonOf } from "../basis/reason-of";
import { settings } from "../storage/stores";
import { tell } from "./notices";

const KEY = "name-patterns";
const MOST = 50;

/** Patterns of names that were saved in this browser, the newest first; null before they were looked up. */
export const useNamePatterns = create<{ readonly saved: readonly string[] | null }>(() => ({ saved: null }));

/** Looks up what was saved. */
export async function loadNamePatterns(): Promise<void> {
  const saved = await settings.getItem<unknown>(KEY).catch(() => null);
  const texts = Array.isArray(saved) ? saved.filter((s): s is string => typeof s === "string" && s !== "") : [];
  useNamePatterns.setState({ saved: texts.slice(0, MOST) });
}

async function store(change: (saved: readonly string[]) => readonly string[]): Promise<void> {
  // Another tab may have saved one meanwhile.
  await loadNamePatterns();
  const saved = change(useNamePatterns.getState().saved ?? []).slice(0, MOST);
  try {
    await settings.setItem(KEY, saved);
    useNamePatterns.setState({ saved });
  } catch (error) {
    tell("error", `The pattern was not saved: ${reasonOf(error)}.`);
  }
}

export const saveNamePattern = (text: string): Promise<void> =>
  store((saved) => [text, ...saved.filter((s) => s !== text)]);
export const forgetNamePattern = (text: string): Promise<void> => store((saved) => saved.filter((s) => s !== text));
