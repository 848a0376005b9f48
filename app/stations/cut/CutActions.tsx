import type { Take } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { setView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";

interface CutActionsProps {
  readonly take: Take;
  readonly takes: readonly Take[];
  /** How many of its slices are kept. */
  readonly kept: number;
  /** Whether a search is being tried out. */
  readonly searching: boolean;
  /** Makes a slice where the wave was clicked; null when it wasn't. */
  readonly onAdd: (() => void) | null;
  readonly onFind: () => void;
  readonly onExport: () => void;
  readonly onMake: () => void;
}

/** What can be done with a take as a whole: the head of the Cut station. */
export function CutActions({ take, takes, kept, searching, onAdd, onFind, onExport, onMake }: CutActionsProps) {
  return (
    <>
      <Choice
        label="Take"
        value={take.id}
        options={takes.map((t) => ({ id: t.id, label: t.name }))}
        onChange={(id) => setView({ takeId: id, sliceIds: new Set() })}
        className="w-[150px]"
      />
      <Button
        disabled={onAdd === null}
        hint={
          onAdd === null
            ? "Click the wave first: the slice begins there"
            : "A slice by hand, one second from where the wave was clicked last"
        }
        onClick={() => onAdd?.()}
      >
        New slice
      </Button>
      {take.slices.length === 0 ? (
        <Button look="primary" onClick={onFind} hint="Finds every sound and measures its pitch and level">
          Find sounds
        </Button>
      ) : (
        <>
          <Button
            disabled={kept === 0}
            hint="Exports the included (or the selected) slices as WAV or FLAC files"
            onClick={onExport}
          >
            Export files …
          </Button>
          <Button
            look="primary"
            disabled={kept === 0 || searching}
            onClick={onMake}
            hint="Makes samples of the included slices; the take stays"
          >
            Make {plural(kept, "sample")}
          </Button>
        </>
      )}
    </>
  );
}
