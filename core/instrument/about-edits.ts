import type { Edit } from "./edit";
import type { Instrument } from "./instrument";

/** Changes what the instrument says of itself. */
export const changeAbout = (change: Partial<Instrument["about"]>): Edit => ({
  name: `Change ${Object.keys(change).join(", ")}`,
  merge: `about:${Object.keys(change).join()}`,
  apply: (doc) => ({ ...doc, about: { ...doc.about, ...change } }),
});

/** Changes the tempo or the meter for which it is made. */
export const setSong = (change: Partial<Instrument["song"]>): Edit => ({
  name: "tempo" in change ? "Set tempo" : "Set meter",
  merge: `song:${Object.keys(change).join()}`,
  apply: (doc) => ({ ...doc, song: { ...doc.song, ...change } }),
});

/** Changes the script, or switches it on or off. */
export const changeRules = (change: Partial<Instrument["rules"]>): Edit => ({
  name:
    "on" in change
      ? change.on
        ? "Switch rules on"
        : "Switch rules off"
      : "script" in change
        ? "Edit rules"
        : "Change rules",
  merge: `rules:${Object.keys(change).join()}`,
  apply: (doc) => ({ ...doc, rules: { ...doc.rules, ...change } }),
});

/** Several edits as one step with one name. */
export const together = (name: string, edits: readonly Edit[]): Edit => ({
  name,
  apply: (doc) => edits.reduce((instrument, edit) => edit.apply(instrument), doc),
});
