import { laidOut, throughScreen } from "../../core/face";
import { byIdentity, type Edit, type Face, type FaceItem, type Instrument, type Screen } from "../../core/instrument";
import { session } from "./session";
import { setView, useView } from "./view";

const onScreen = (instrument: Instrument, screen: Screen): Instrument => {
  const face = laidOut(instrument.face, screen);
  return face === instrument.face ? instrument : { ...instrument, face };
};

/** The instrument with its face as it is laid out for a screen. */
const LAID_OUT = {
  desktop: (instrument: Instrument): Instrument => instrument,
  tablet: byIdentity((instrument: Instrument) => onScreen(instrument, "tablet")),
  phone: byIdentity((instrument: Instrument) => onScreen(instrument, "phone")),
};
/** An instrument as the station shows it: its face laid out for the screen that is looked at. The same object for the same instrument. */
export const asShown = (instrument: Instrument): Instrument =>
  LAID_OUT[useView.getState().faceScreen ?? "desktop"](instrument);

/** The same, for components. */
export const useShown = (instrument: Instrument): Instrument =>
  LAID_OUT[useView((v) => v.faceScreen) ?? "desktop"](instrument);

/** The face as the station shows it. */
export const faceShown = (): Face | null => (session.instrument ? asShown(session.instrument).face : null);

/** Makes an edit to the face as it is shown: on another screen places are that screen's alone. */
export const commitFace = (edit: Edit, gesture: string | null = null): void =>
  session.commit(throughScreen(edit, useView.getState().faceScreen), gesture);

/** The ids of what is chosen on the face, the first of them chosen last. */
export function chosenIds(): readonly string[] {
  const { faceItem, faceMore } = useView.getState();
  return faceItem === null ? [] : [faceItem, ...[...faceMore].filter((id) => id !== faceItem)];
}

/** The items that are chosen, from the back to the front. */
export function chosenItems(): readonly FaceItem[] {
  const ids = new Set(chosenIds());
  return (faceShown()?.items ?? []).filter((item) => ids.has(item.id));
}

/** Chooses these, the last of them as the one that is looked at. */
export const choose = (ids: readonly string[]): void =>
  setView({ faceItem: ids.at(-1) ?? null, faceMore: new Set(ids.slice(0, -1)) });

/** An item and those of its group. */
export function withGroup(id: string): readonly string[] {
  const items = session.instrument?.face.items ?? [];
  const group = items.find((item) => item.id === id)?.group ?? null;
  return group === null ? [id] : [...items.filter((i) => i.group === group && i.id !== id).map((i) => i.id), id];
}

/** Chooses an item beside those that are, or no longer. */
export function toggleChosen(id: string): void {
  const now = chosenIds();
  const these = withGroup(id);
  choose(now.includes(id) ? now.filter((i) => !these.includes(i)).reverse() : [...[...now].reverse(), ...these]);
}

/** The page that is shown: what was chosen, else the first. */
export const pageShown = (): string | null => {
  const pages = session.instrument?.face.pages ?? [];
  const { facePage } = useView.getState();
  return (pages.find((p) => p.id === facePage) ?? pages[0])?.id ?? null;
};
