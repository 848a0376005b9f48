import type { FaceItem, Sample, Slice, Zone } from "../../core/instrument";

/** What was copied: parts of a document, with what they need to stand elsewhere. */
type Clip =
  | { readonly kind: "zones"; readonly zones: readonly Zone[]; readonly samples: readonly Sample[] }
  | { readonly kind: "slices"; readonly slices: readonly Slice[] }
  | { readonly kind: "face"; readonly items: readonly FaceItem[] };

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
export function copied<K extends Clip["kind"]>(kind: K): Extract<Clip, { kind: K }> | null {
  const text = localStorage.getItem(KEY);
  let clip = own;
  try {
    if (text !== null) clip = JSON.parse(text) as Clip;
  } catch {
    // Nobody else's text is pasted.
  }
  return clip?.kind === kind ? (clip as Extract<Clip, { kind: K }>) : null;
}
