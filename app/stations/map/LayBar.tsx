import { X } from "lucide-react";
import { useStore } from "zustand";
import { folderOf, type Laying } from "../../../core/mapping";
import { keepLaid, laidText, lastLaid, layOtherwise } from "../../state/laying";
import { Choice } from "../../widgets/Choice";
import { Toggle } from "../../widgets/Toggle";
import { STEPS } from "./spreads";

const FOLDERS: readonly { readonly id: Laying["folders"]; readonly label: string }[] = [
  { id: "together", label: "one after the other" },
  { id: "groups", label: "a group each" },
  { id: "layers", label: "a layer each" },
];

/** How samples that were just dropped are laid out, and the other ways of it: one press changes it, all in one undo step. */
export function LayBar() {
  const laid = useStore(lastLaid, (s) => s.laid);
  if (!laid) return null;
  const { laying, samples, target } = laid;
  const folders = new Set(samples.map(folderOf)).size;
  const keys = laying.onto === "keys";
  const onto: readonly { readonly id: Laying["onto"]; readonly label: string }[] = [
    { id: "keys", label: "on keys of their own" },
    { id: "repeats", label: "into the zone, as repeats" },
    { id: "instead", label: "in place of its sample" },
  ];
  return (
    <section
      aria-label="How they were laid"
      className="absolute inset-x-3 bottom-3 z-20 flex flex-wrap items-center gap-x-3 gap-y-1 rounded-m border border-rule-strong bg-sheet px-3 py-1 shadow-md"
    >
      <span role="status" className="font-medium">
        {laidText(laid)}
      </span>
      {target.size > 0 && (
        <Choice
          label="Where the samples go"
          value={laying.onto}
          options={onto}
          onChange={(id) => layOtherwise({ onto: id as Laying["onto"] })}
          className="w-44"
        />
      )}
      {keys && (
        <Choice
          label="Which keys they take"
          value={String(laying.step)}
          options={STEPS}
          onChange={(id) => layOtherwise({ step: STEPS.find((s) => s.id === id)?.step ?? "all" })}
          className="w-28"
        />
      )}
      {keys && laying.step !== "all" && (
        <Toggle label="and those between" on={laying.cover} onChange={(cover) => layOtherwise({ cover })} />
      )}
      {keys && folders > 1 && (
        <span className="inline-flex items-center gap-1.5">
          <span className="text-ink-soft">{folders} folders:</span>
          <Choice
            label="What becomes of folders"
            value={laying.folders}
            options={FOLDERS}
            onChange={(id) => layOtherwise({ folders: id as Laying["folders"] })}
            className="w-36"
          />
        </span>
      )}
      <span className="flex-1" />
      <button
        type="button"
        aria-label="Keep them so"
        title="Keep them so"
        onClick={keepLaid}
        className="grid size-6 place-items-center rounded-m text-ink-soft hover:bg-well"
      >
        <X size={13} aria-hidden />
      </button>
    </section>
  );
}
