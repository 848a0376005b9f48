import { Dialog } from "radix-ui";
import { useState } from "react";
import type { Fault } from "../../core/instrument";
import { plural } from "../../core/params";
import { reasonOf } from "../basis/reason-of";
import { saveFile } from "../basis/save-file";
import { fileName } from "../state/file-name";
import { tell } from "../state/notices";
import { askRepair, useRepair } from "../state/repair";
import { Button } from "../widgets/Button";

const close = () => askRepair(null);

/** Asks what becomes of a document that can't be opened as it is: its faults with their places, to be put right one by one or all. */
export function RepairDialog() {
  const request = useRepair((r) => r.request);
  return (
    <Dialog.Root open={request !== null} onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ground opacity-60" />
        {request && (
          <Dialog.Content className="fixed top-[12vh] left-1/2 z-50 flex max-h-[76vh] w-[560px] -translate-x-1/2 flex-col rounded-m border border-ink bg-sheet p-5">
            <Dialog.Title className="line-clamp-2 shrink-0 break-all font-display font-semibold text-l">
              “{request.title}” can't be opened as it is
            </Dialog.Title>
            <Dialog.Description className="mt-1 mb-3 text-ink-soft">
              {plural(request.faults.length, "place is", "places are")} not as they must be. Say for each that it may be
              put right; what is stored stays as it is until then.
            </Dialog.Description>
            <Faults
              key={request.title}
              faults={request.faults}
              text={request.text}
              title={request.title}
              open={request.open}
            />
          </Dialog.Content>
        )}
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** As many faults as are listed one by one. */
const MOST_LISTED = 200;

interface FaultsProps {
  readonly faults: readonly Fault[];
  readonly text: string | null;
  readonly title: string;
  readonly open: () => Promise<void>;
}

function Faults({ faults, text, title, open }: FaultsProps) {
  const [agreed, setAgreed] = useState<ReadonlySet<Fault>>(new Set(faults.filter((f) => !f.loses)));
  const listed = faults.slice(0, MOST_LISTED);
  const toggle = (fault: Fault) => {
    const next = new Set(agreed);
    if (!next.delete(fault)) next.add(fault);
    setAgreed(next);
  };
  const proceed = async () => {
    close();
    try {
      await open();
    } catch (error) {
      tell("error", `“${title}” was not opened: ${reasonOf(error)}.`);
    }
  };
  return (
    <>
      <ul aria-label="Faults" className="min-h-0 flex-1 overflow-y-auto border-rule border-y">
        {listed.map((fault) => (
          <li key={`${fault.path} ${fault.problem}`} className="border-rule border-b py-1.5 last:border-0">
            <label className="grid grid-cols-[20px_1fr] gap-x-1.5">
              <input
                type="checkbox"
                checked={agreed.has(fault)}
                onChange={() => toggle(fault)}
                className="mt-1 size-3.5 accent-cobalt"
              />
              <span>
                <span className="num text-[12px]">{fault.path || "the document"}</span> {fault.problem}.
                <span className={fault.loses ? "block text-vermilion" : "block text-ink-soft"}>{fault.repair}.</span>
              </span>
            </label>
          </li>
        ))}
        {faults.length > MOST_LISTED && (
          <li className="py-1.5 text-ink-soft">and {faults.length - MOST_LISTED} more</li>
        )}
      </ul>
      <div className="mt-3 flex justify-end gap-2">
        {text !== null && (
          <Button
            hint="Keeps the document as it is now, for whoever can mend it by hand"
            onClick={() => saveFile(`${fileName(title)}.json`, new Blob([text], { type: "application/json" }))}
          >
            Save it as a file
          </Button>
        )}
        <span className="flex-1" />
        <Button onClick={close}>Cancel</Button>
        <Button onClick={() => setAgreed(new Set(faults))} disabled={agreed.size === faults.length}>
          Agree to all
        </Button>
        <Button look="primary" disabled={agreed.size < faults.length} onClick={() => void proceed()}>
          Put right and open
        </Button>
      </div>
    </>
  );
}
