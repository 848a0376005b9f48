import { create } from "zustand";
import type { Screen } from "../../core/instrument";
import type { SpreadZone } from "../../core/mapping";

export type Theme = "system" | "day" | "night";

/** What is looked at: never part of the file. */
export interface View {
  readonly theme: Theme;
  readonly takeId: string | null;
  readonly sliceIds: ReadonlySet<string>;
  /** Whether dragged edges of slices settle where the sound goes through zero. */
  readonly snap: boolean;
  /** What Take shows. */
  readonly takePanel: "takes" | "shots" | "room";
  /** How Map shows the zones. */
  readonly mapPanel: "field" | "list";
  /** What stands beside the field. */
  readonly mapSide: "zones" | "outline" | "pool" | "check";
  /** What is open of the outline, by its address; null for nothing. */
  readonly outlined: string | null;
  /** The row of the outline on which zones from the field would be dropped; null for none. */
  readonly outlineOver: string | null;
  /** Whether the outline shows levels. */
  readonly outlineLevels: boolean;
  /** Samples that are chosen in the pool, by their content. */
  readonly sampleIds: ReadonlySet<string>;
  readonly zoneIds: ReadonlySet<string>;
  /** What would become of zones that are being spread, by id; null while none are. */
  readonly spreading: ReadonlyMap<string, SpreadZone> | null;
  /** Address of the unit that Sound shows. */
  readonly soundUnit: string | null;
  /** Whether Sound shows how layers are led into each other, instead of each one's way. */
  readonly soundLinks: boolean;
  /** Of the face: the item that is chosen, those that are chosen with it, the page that is shown, and what stands beside it. */
  readonly faceItem: string | null;
  readonly faceMore: ReadonlySet<string>;
  readonly facePage: string | null;
  /** For which screen it is laid out; null: a desktop's. */
  readonly faceScreen: Screen | null;
  readonly faceSide: "item" | "outline" | "look" | "check";
  /** First key of the key axis, and how many keys it shows. */
  readonly keyLow: number;
  readonly keyCount: number;
  /** Lowest note of the computer keyboard. */
  readonly octave: number;
  /** The velocity of every note that is played; null: as it is played. */
  readonly strength: number | null;
  /** Velocities at the lower and the upper edge of the field. */
  readonly velFrom: number;
  readonly velTo: number;
  /** Groups of the map by layer and id: shown pale, kept from being touched, not heard, heard alone. */
  readonly paled: ReadonlySet<string>;
  readonly locked: ReadonlySet<string>;
  readonly muted: ReadonlySet<string>;
  readonly alone: ReadonlySet<string>;
  /** Units that are chosen beside the open one. */
  readonly moreUnits: ReadonlySet<string>;
  /** The unit that stays open beside the one that is opened; null for none. */
  readonly pinnedUnit: string | null;
  /** What the flags of a loop settle on while they are dragged. */
  readonly loopSettles: "nothing" | "zero" | "period" | "beat";
  /** In what the Loop station shows places and lengths. */
  readonly loopUnit: "time" | "samples" | "periods" | "beats";
  /** Which channel of a stereo sample the Loop station shows. */
  readonly loopChannel: "sum" | "left" | "right";
  /** What stands beside the loop's wave. */
  readonly loopSide: "loop" | "beat" | "zones";
  /** Whether the measures stand above the keys. */
  readonly measures: boolean;
  /** What they look at: a row or a unit, by its address; null: all that is heard. */
  readonly measured: string | null;
  /** Whether the keybed is a strip, to leave the station more room. */
  readonly keysFolded: boolean;
  readonly phrase: string;
}

/** The map as it is looked at first: all velocities, every group shown, free and heard. */
const ALL_GROUPS = {
  velFrom: 0,
  velTo: 127,
  paled: new Set<string>(),
  locked: new Set<string>(),
  muted: new Set<string>(),
  alone: new Set<string>(),
};

const stored = globalThis.localStorage?.getItem("vise-theme");

export const useView = create<View>(() => ({
  theme: stored === "day" || stored === "night" ? stored : "system",
  takeId: null,
  sliceIds: new Set<string>(),
  snap: true,
  takePanel: "takes",
  mapPanel: "field",
  mapSide: "zones",
  outlined: null,
  outlineOver: null,
  outlineLevels: true,
  sampleIds: new Set<string>(),
  zoneIds: new Set<string>(),
  spreading: null,
  soundUnit: null,
  soundLinks: false,
  faceItem: null,
  faceMore: new Set<string>(),
  facePage: null,
  faceScreen: null,
  faceSide: "item",
  keyLow: 41,
  keyCount: 41,
  octave: 48,
  strength: null,
  ...ALL_GROUPS,
  moreUnits: new Set(),
  pinnedUnit: null,
  measured: null,
  loopSettles: "zero",
  loopUnit: "time",
  loopChannel: "sum",
  loopSide: "loop",
  measures: globalThis.localStorage?.getItem("vise-measures") === "shown",
  keysFolded: globalThis.localStorage?.getItem("vise-keys") === "folded",
  phrase: "arpeggio",
}));

export const setView = useView.setState;

/** Forgets what was selected, as when another instrument is opened. */
export const clearSelection = (): void =>
  setView({
    takeId: null,
    sliceIds: new Set(),
    zoneIds: new Set(),
    sampleIds: new Set(),
    soundUnit: null,
    moreUnits: new Set(),
    pinnedUnit: null,
    faceItem: null,
    faceMore: new Set(),
    facePage: null,
    faceScreen: null,
    outlined: null,
    ...ALL_GROUPS,
  });

/** Shows the measures above the keys or hides them, and remembers it. */
export function showMeasures(measures: boolean): void {
  setView({ measures });
  localStorage.setItem("vise-measures", measures ? "shown" : "hidden");
}

/** Folds the keybed to a strip or out again, and remembers it. */
export function foldKeys(keysFolded: boolean): void {
  setView({ keysFolded });
  localStorage.setItem("vise-keys", keysFolded ? "folded" : "open");
}

/** Shows the theme and remembers it. */
export function setTheme(theme: Theme): void {
  setView({ theme });
  localStorage.setItem("vise-theme", theme);
  showTheme(theme);
}

export function showTheme(theme: Theme): void {
  if (theme === "system") document.documentElement.removeAttribute("data-theme");
  else document.documentElement.dataset.theme = theme;
}
