import { AlertDialog } from "radix-ui";
import { plural } from "../../../core/params";
import { Button } from "../../widgets/Button";
import type { Recut } from "./recut";

interface RecutDialogProps {
  readonly recut: Recut | null;
  /** null: nothing is done. */
  readonly onAnswer: (update: boolean | null) => void;
}

/** Asks what a new cut does to the zones that play the old one. */
export function RecutDialog({ recut, onAnswer }: RecutDialogProps) {
  return (
    <AlertDialog.Root open={recut !== null} onOpenChange={(open) => !open && onAnswer(null)}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-ground opacity-60" />
        <AlertDialog.Content className="fixed top-[22%] left-1/2 z-50 w-[440px] -translate-x-1/2 rounded-m border border-rule-strong bg-sheet p-5 shadow-md">
          <AlertDialog.Title className="font-display font-semibold text-l">
            {plural(recut?.mapped.size ?? 0, "sample")} in use {recut?.mapped.size === 1 ? "was" : "were"} cut again
          </AlertDialog.Title>
          <AlertDialog.Description className="mt-1 mb-4 text-ink-soft">
            Zones, sources and rooms can use the new cut from now on: keys and velocities stay, starts, loops and
            tunings go along to where they stood in the sound. Or leave all as it is and keep both.
          </AlertDialog.Description>
          <div className="flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button>Cancel</Button>
            </AlertDialog.Cancel>
            <Button onClick={() => onAnswer(false)}>Keep both</Button>
            <AlertDialog.Action asChild>
              <Button look="primary" onClick={() => onAnswer(true)}>
                Update the keys
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
