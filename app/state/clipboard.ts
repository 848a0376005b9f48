import type { FaceItem, FacePicture, Route, Sample, Slice, Unit, Zone } from "../../core/instrument";

/** What units are copied as: those of one can be pasted wherever such units stand. */
export type UnitShelf = "envelopes" | "lfos" | "macros" | "mics" | "sets" | "stages" | "effects";

interface Units {
  readonly units: readonly Unit[];
}

/** What can be copied, by its kind: parts of a document, with what they need to stand elsewhere. */
interface Contents extends Record<UnitShelf, Units> {
  readonly zones: { readonly zones: readonly Zone[]; readonly samples: readonly Sample[] };
  readonly slices: { readonly slices: readonly Slice[] };
  readonly face: { readonly items: readonly FaceItem[]; readonly pictures: readonly FacePicture[] };
  readonly routes: { readonly routes: readonly Route[] };
}
type Kind = keyof Contents;
type Clip<K extends Kind = Kind> = { [P in K]: { readonly kind: P } & Contents[P] }[K];

const KEY = "vise-clipboard";

/** What was copied last where it is too large for what tabs share. */
let own: Clip | null = null;

/** Copies something; other tabs of this browser can paste it too. */
export function copy(clip: Clip): void {
  own = clip;
  try {
    localStorage.setItem(KEY, JSON.stringify(clip));
  } catch {
    localStorage.removeItem(KEY);
  }
}

/** What was copied last if it is of a kind; null where it isn't. */
export function copied<K extends Kind>(kind: K): Clip<K> | null {
  const text = localStorage.getItem(KEY);
  let clip: { readonly kind: string } | null = own;
  try {
    if (text !== null) clip = JSON.parse(text) as Clip;
  } catch {
    // Nobody else's text is pasted.
  }
  return clip?.kind === kind ? (clip as Clip<K>) : null;
}
