import { useStore } from "zustand";
import { engine } from "../../state/engine";
import { hearAll } from "../../state/group-view";
import { useView } from "../../state/view";
import { Button } from "../../widgets/Button";

/** Says that what is muted or soloed while one works is no part of what is shipped, where something is. */
export function HeardHere() {
  const { muted, alone } = useView();
  const solo = useStore(engine.store, (e) => e.solo);
  const only = alone.size + solo.length;
  if (muted.size + only === 0) return null;
  const parts = [muted.size > 0 ? `${muted.size} muted` : "", only > 0 ? `${only} soloed` : ""];
  return (
    <div className="mt-3 border-ochre border-l-[3px] py-0.5 pl-2 text-s">
      <p>
        You hear only part of it just now ({parts.filter((p) => p !== "").join(", ")}). That is for your own ears: what
        is handed over sounds whole.
      </p>
      <Button
        look="quiet"
        className="!h-6 !px-1"
        onClick={() => {
          hearAll();
          engine.solo([]);
        }}
      >
        Hear all of it
      </Button>
    </div>
  );
}
