import { useEffect } from "react";
import { useRouteError } from "react-router";
import { reasonOf } from "../basis/reason-of";
import { session } from "../state/session";
import { Button } from "../widgets/Button";
import { Empty } from "./Station";

/** In place of everything, where the frame itself failed: what was done is saved by then, and what sounds goes on. */
export function BrokenFrame() {
  const why = reasonOf(useRouteError());
  useEffect(() => void session.save(), []);
  return (
    <main className="flex h-screen bg-sheet">
      <Empty title="Vise could not be shown">
        <p className="mb-4">
          {why}. What you have done so far is being saved in this browser. Load the page again to go on with it.
        </p>
        <Button look="primary" onClick={() => location.reload()}>
          Load again
        </Button>
      </Empty>
    </main>
  );
}
