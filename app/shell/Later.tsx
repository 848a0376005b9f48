import { lazy, Suspense } from "react";

/** Parts of the frame that few need at once, by name: the code of each is fetched when it is first shown. */
const PARTS = {
  measures: lazy(async () => ({ default: (await import("./Measures")).Measures })),
  overlays: lazy(async () => ({ default: (await import("./Overlays")).Overlays })),
  reports: lazy(async () => ({ default: (await import("./ReportDialog")).Reports })),
} as const;

/** One of them; nothing stands there until it has come. */
export function Later({ part }: { readonly part: keyof typeof PARTS }) {
  const Part = PARTS[part];
  return (
    <Suspense fallback={null}>
      <Part />
    </Suspense>
  );
}
