import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";
import { useStore } from "zustand";
import { reasonOf } from "../basis/reason-of";
import { installedOnce, openedOnce } from "../state/demo";
import { freshInstrument } from "../state/fresh-instrument";
import { tell } from "../state/notices";
import { openStored } from "../state/open-instrument";
import { Broken, session } from "../state/session";
import { tabs } from "../storage/instrument-locks";
import { Button } from "../widgets/Button";
import { RepairDialog } from "./RepairDialog";

/** Opens what was open last before anything is shown; the very first time, the demo. */
export function Gate({ children }: { children: ReactNode }) {
  const open = useStore(session.store, (s) => s.history !== null);
  const client = useQueryClient();
  const [failure, setFailure] = useState<string | null>(null);
  const [broken, setBroken] = useState<string | null>(null);
  useEffect(() => {
    installedOnce()
      .then(() => client.invalidateQueries({ queryKey: ["library"] }))
      .catch((error: unknown) =>
        tell("warning", `The demo instrument could not be put into the library: ${reasonOf(error)}.`),
      );
    openedOnce().catch((error: unknown) => {
      setFailure(reasonOf(error));
      if (error instanceof Broken) setBroken(error.failed.id);
    });
    return tabs.listen((message) => {
      if (message.type === "library") void client.invalidateQueries({ queryKey: ["library"] });
      if (message.type === "recordings") void client.invalidateQueries({ queryKey: ["unfinished-recordings"] });
    });
  }, [client]);
  if (open)
    return (
      <>
        {children}
        <RepairDialog />
      </>
    );
  return (
    <div className="grid h-full place-items-center">
      <RepairDialog />
      {failure === null ? (
        <p className="text-ink-soft text-l">Laying out the bench …</p>
      ) : (
        <div className="max-w-md text-center">
          <h1 className="mb-2 font-display font-semibold text-xl">Vise could not open what was there</h1>
          <p className="mb-4 line-clamp-6 break-words text-ink-soft">{failure}. Nothing was deleted.</p>
          {broken !== null && (
            <Button className="mr-2" onClick={() => void openStored(broken)}>
              See what is wrong with it
            </Button>
          )}
          <Button look="primary" onClick={() => void session.begin(freshInstrument())}>
            Begin with an empty instrument
          </Button>
        </div>
      )}
    </div>
  );
}
