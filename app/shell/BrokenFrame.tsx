import { useEffect } from "react";
import { useRouteError } from "react-router";
import { useStore } from "zustand";
import { reasonOf } from "../basis/reason-of";
import { session } from "../state/session";
import { Button } from "../widgets/Button";
import { Empty } from "./Station";

/** How what was done so far stands. */
const KEPT = {
  saved: "What you have done is saved in this browser. Load the page again to go on with it.",
  saving: "What you have done is being saved in this browser; wait for it before you load the page again.",
  failed: "What you did last could not be saved. Loading the page again goes back to what was saved before.",
} as const;

/** In place of everything, where the frame itself failed: it saves, and says how that went; what sounds goes on. */
export function BrokenFrame() {
  const why = reasonOf(useRouteError());
  const saved = useStore(session.store, (s) => s.saved);
  useEffect(() => void session.save(), []);
  return (
    <main className="flex h-screen bg-sheet">
      <Empty title="Vise could not be shown">
        <p className="mb-4">
          {why}. {KEPT[saved]}
        </p>
        <Button look="primary" onClick={() => location.reload()}>
          Load again
        </Button>
      </Empty>
    </main>
  );
}
