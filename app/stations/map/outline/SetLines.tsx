import { ChevronLeft, ChevronRight } from "lucide-react";
import { chosenLayer, layersOfSet, setParam, type Unit } from "../../../../core/instrument";
import { session } from "../../../state/session";
import { useInstrument } from "../../../state/use-session";
import { useView } from "../../../state/view";
import { Choice } from "../../../widgets/Choice";
import { cx } from "../../../widgets/class-names";
import { openOutlined } from "./outline-commands";

/** The sets, each with the one of its layers that sounds: chosen by name, or the next and the one before. */
export function SetLines({ onRename }: { onRename: (address: string) => void }) {
  const sets = useInstrument((i) => i.sets);
  if (sets.length === 0)
    return <p className="text-ink-soft text-s">None: all layers sound together. Open a layer to put it into a set.</p>;
  return sets.map((set) => <SetLine key={set.id} set={set} onRename={onRename} />);
}

function SetLine({ set, onRename }: { set: Unit; onRename: (address: string) => void }) {
  const address = `sets/${set.id}`;
  const open = useView((v) => v.outlined === address);
  const layers = useInstrument((i) => i.layers);
  const doc = useInstrument((i) => i);
  const members = layersOfSet(doc, set.id);
  const chosen = chosenLayer(doc, set);
  const at = chosen ? members.indexOf(chosen) : -1;
  const choose = (place: number) => {
    const { instrument } = session;
    const within = (place + members.length) % members.length;
    if (instrument && members.length > 0) session.commit(setParam(instrument, `${address}/selected`, within + 1));
  };
  const step = (by: number, label: string, Icon: typeof ChevronLeft) => (
    <button
      type="button"
      aria-label={`${label} of ${set.name}`}
      title={label}
      disabled={members.length < 2}
      onClick={() => choose(at + by)}
      className="grid size-6 place-items-center rounded-s text-ink-soft hover:bg-well disabled:opacity-45"
    >
      <Icon size={14} aria-hidden />
    </button>
  );
  return (
    <div className={cx("flex h-8 items-center gap-1 border-rule border-b", open && "bg-tint-cobalt")}>
      <button
        type="button"
        data-name
        aria-pressed={open}
        onClick={() => openOutlined(open ? null : address)}
        onDoubleClick={() => onRename(address)}
        className="min-w-8 flex-1 truncate px-1 text-left"
      >
        {set.name}
      </button>
      {step(-1, "Previous layer", ChevronLeft)}
      <Choice
        label={`Layer of ${set.name} that sounds`}
        value={chosen?.id ?? ""}
        placeholder={layers.length > 0 ? "no layer is in it yet" : "no layer"}
        disabled={members.length === 0}
        options={members.map((l) => ({ id: l.id, label: l.name }))}
        onChange={(id) => choose(members.findIndex((l) => l.id === id))}
        className="w-36"
      />
      {step(1, "Next layer", ChevronRight)}
    </div>
  );
}
