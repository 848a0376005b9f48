import { useEffect, useRef, useState } from "react";
import type { FoundSlice } from "../../../core/analysis";
import { changeTake, type Edit, type Search, type Slice, type Take } from "../../../core/instrument";
import { mergeSlices, sliceId, slicesOf } from "../../../core/mapping";
import { plural } from "../../../core/params";
import { nextTask } from "../../basis/next-task";
import { reasonOf } from "../../basis/reason-of";
import { Errand } from "../../state/errand";
import { tell } from "../../state/notices";
import { withProgress } from "../../state/with-progress";
import { audioWorker, Cancelled } from "../../workers/audio-worker";

/** What a search shows while one of its values is being dragged: nothing of it is in the document yet. */
interface Preview {
  readonly search: Search;
  readonly slices: readonly FoundSlice[];
}

/** So many attacks inside sounds, and as a share of the sounds, are worth a word. */
const FEWEST_HINTED = 3;
const SHARE_HINTED = 0.1;

/** Finds a take's sounds live while its search changes; `settle` measures them and makes it one edit. */
export function useSearch(take: Take) {
  const [preview, setPreview] = useState<Preview | null>(null);
  const wanted = useRef<Search | null>(null);
  const busy = useRef(false);
  const forgotten = useRef(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another take, another preview
  useEffect(() => setPreview(null), [take.id]);
  const failed = (error: unknown) => {
    if (!(error instanceof Cancelled)) tell("error", `${take.name} can't be searched: ${reasonOf(error)}.`);
  };

  /** Shows what would be found; only the newest search is made. */
  const show = async (change: Partial<Search>) => {
    const next = { ...(wanted.current ?? preview?.search ?? take.search), ...change };
    wanted.current = next;
    setPreview((p) => ({ search: next, slices: p?.slices ?? take.slices }));
    if (busy.current) return;
    busy.current = true;
    try {
      while (wanted.current !== null) {
        const search: Search = wanted.current;
        wanted.current = null;
        const turn = forgotten.current;
        const { slices } = await audioWorker().search({ ...take, search });
        if (turn === forgotten.current) setPreview({ search, slices });
      }
    } catch (error) {
      failed(error);
      // Nothing is being tried any more: what is in the document is shown.
      wanted.current = null;
      setPreview(null);
    } finally {
      busy.current = false;
    }
  };

  const settle = async (change: Partial<Search>) => {
    const search = { ...(preview?.search ?? take.search), ...change };
    const errand = Errand.begin("find sounds");
    if (!errand) {
      setPreview(null);
      return;
    }
    try {
      const found = await withProgress(`Finding the sounds of ${take.name}`, (worker) =>
        worker.search({ ...take, search }),
      );
      const measured = await withProgress(
        `Measuring ${plural(found.slices.length, "sound")} of ${take.name}`,
        (worker, progress) => worker.measure(take.sha, found.slices, progress),
      );
      if (!measured) return;
      const fresh = slicesOf(measured, (i) => sliceId(measured[i]?.onset ?? i));
      // Hundreds of slices came in: what waits to be drawn or clicked goes first.
      await nextTask();
      // Measuring takes a while: what was said of the slices meanwhile counts.
      let slices: readonly Slice[] = [];
      const edit: Edit = {
        name: `Find ${plural(fresh.length, "sound")}`,
        apply: (doc) => {
          const now = doc.takes.find((t) => t.id === take.id);
          slices = mergeSlices(now?.slices ?? [], fresh, take.rate);
          return changeTake(take.id, "", { search, floor: found.floor, slices }).apply(doc);
        },
      };
      if ((await errand.deliver(edit, `${plural(fresh.length, "sound")} of ${take.name}`)) !== "open") return;
      if (fresh.length === 0)
        tell("warning", `No sound was found in ${take.name}: it is silent, or the threshold stands too high for it.`);
      setPreview(null);
      if (search.by === "level") await hintAttacks(slices);
    } catch (error) {
      failed(error);
      setPreview(null);
    }
  };

  /** Where notes ring into one another, the level doesn't part them: says so. */
  const hintAttacks = async (slices: readonly FoundSlice[]) => {
    const inside = await audioWorker().attacksInside({ sha: take.sha, slices });
    if (inside < Math.max(FEWEST_HINTED, slices.length * SHARE_HINTED)) return;
    tell(
      "warning",
      `${plural(inside, "attack")} more ring inside these sounds: searching by transient separates them.`,
      {
        label: "By transient",
        run: () => void settle({ by: "attack" }),
      },
    );
  };
  const forget = () => {
    forgotten.current++;
    wanted.current = null;
    setPreview(null);
  };
  return { preview, show, settle, forget };
}
