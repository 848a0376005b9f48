import { useCallback, useState, useSyncExternalStore } from "react";
import type { Instrument } from "../../core/instrument";
import { type Instruments, testHolds } from "./face-world";

/** The page that a value shows by itself, the page that was wanted where none does, and the page that lies over it; null for none. */
export interface ShownPages {
  readonly page: string | null;
  readonly over: string | null;
}

/** Which pages are shown: `wanted` and `over` are what somebody asked for. A page whose test holds comes before one that was asked for. */
export function shownPages(instrument: Instrument, wanted: string | null, over: string | null): ShownPages {
  const { pages } = instrument.face;
  const holding = pages.filter((p) => p.when && testHolds(instrument, p.when));
  const plain = pages.filter((p) => !p.over);
  const asked = plain.find((p) => p.id === wanted && !p.when);
  const page = holding.find((p) => !p.over) ?? asked ?? plain.find((p) => !p.when) ?? plain[0] ?? pages[0];
  const above = holding.find((p) => p.over) ?? pages.find((p) => p.over && p.id === over);
  return { page: page?.id ?? null, over: above && above.id !== page?.id ? above.id : null };
}

/** The pages of a face as somebody goes through them. */
export function usePages(
  instruments: Instruments,
  first: string | null = null,
): ShownPages & {
  readonly goTo: (page: string) => void;
  readonly close: () => void;
} {
  const [wanted, setWanted] = useState(first);
  const [above, setAbove] = useState<string | null>(null);
  // As one text: whoever asks is drawn anew only where a page is another.
  const key = useSyncExternalStore(instruments.subscribe, () => {
    const { page, over } = shownPages(instruments.get(), wanted, above);
    return `${page ?? ""}\n${over ?? ""}`;
  });
  const goTo = useCallback(
    (id: string) => {
      const page = instruments.get().face.pages.find((p) => p.id === id);
      if (page?.over) return setAbove(id);
      setAbove(null);
      setWanted(id);
    },
    [instruments],
  );
  const close = useCallback(() => setAbove(null), []);
  const [page, over] = key.split("\n");
  return { page: page || null, over: over || null, goTo, close };
}
