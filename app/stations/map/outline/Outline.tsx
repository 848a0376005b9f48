import { closestCenter, DndContext, type DragEndEvent, useDraggable } from "@dnd-kit/core";
import { SortableContext, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { Plus } from "lucide-react";
import { useCallback, useRef } from "react";
import type { Layer } from "../../../../core/instrument";
import { plural } from "../../../../core/params";
import { groupKey, micKey } from "../../../state/group-view";
import { session } from "../../../state/session";
import { useInstrument } from "../../../state/use-session";
import { setView, useView } from "../../../state/view";
import { Button } from "../../../widgets/Button";
import { useListSensors } from "../../../widgets/SortableList";
import { OutlineDetail } from "./OutlineDetail";
import { DraggedLine, Line } from "./OutlineLine";
import { dropUnit, makeLayer, makeUnit, openOutlined, rowCommands } from "./outline-commands";
import { CHOSEN_ZONES, dropOn, layerAddress, type OutlineRow, outlineRows } from "./outline-rows";
import { SetLines } from "./SetLines";
import { useActivity } from "./use-activity";

/** Layers with their groups, sets of layers and microphones: dragged, switched, levelled; below it what is open of them. */
export function Outline() {
  const layers = useInstrument((i) => i.layers);
  const mics = useInstrument((i) => i.mics);
  const opened = useView((v) => v.outlined);
  const levels = useView((v) => v.outlineLevels);
  const chosen = useView((v) => v.zoneIds.size);
  const whole = useRef<HTMLDivElement>(null);
  const detail = useRef<HTMLDivElement>(null);
  useActivity(whole);
  const rename = useCallback((address: string) => {
    openOutlined(address);
    requestAnimationFrame(() => detail.current?.querySelector<HTMLInputElement>("input")?.select());
  }, []);
  const rows = outlineRows(layers);
  const line = (row: OutlineRow) => (
    <DraggedLine
      key={row.address}
      address={row.address}
      name={row.name}
      full={fullName(row, layers)}
      count={String(row.zones)}
      faders={levels ? (row.kind === "layer" ? `${row.address}/strip` : row.address) : null}
      keys={keysOf(row, layers)}
      commands={rowCommands(row)}
      open={opened === row.address}
      onOpen={() => openOutlined(opened === row.address ? null : row.address)}
      onRename={() => rename(row.address)}
      activity={<LevelBar at={row.kind === "layer" ? lastOf(layers, row.id) : row.address} />}
      mark={row.mark}
      deep={row.kind === "group"}
      strong={row.kind === "layer"}
    />
  );
  return (
    <div ref={whole} data-outline className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-24 flex-1 overflow-y-auto px-3 pt-2 pb-4">
        <Heading title="Layers and groups" add="Add layer" onAdd={makeLayer}>
          <Button
            look="quiet"
            pressed={levels}
            className="h-6 px-1.5"
            hint="Shows level and pan of each"
            onClick={() => setView({ outlineLevels: !levels })}
          >
            Levels
          </Button>
        </Heading>
        <Sorted rows={rows}>
          {chosen > 0 && <ChosenZones count={chosen} />}
          <ol aria-label="Layers and groups">{rows.map(line)}</ol>
        </Sorted>
        <Heading title="Microphones" add="Add microphone" onAdd={() => makeUnit("mics")} />
        {mics.length === 0 && <p className="text-ink-soft text-s">None: samples are of one microphone each.</p>}
        {mics.map((mic) => (
          <Line
            key={mic.id}
            address={`mics/${mic.id}`}
            name={mic.name}
            count=""
            faders={`mics/${mic.id}`}
            keys={[micKey(mic.id)]}
            commands={[{ id: "remove", label: "Remove the microphone", run: () => dropUnit("mics", mic.id) }]}
            open={opened === `mics/${mic.id}`}
            onOpen={() => openOutlined(opened === `mics/${mic.id}` ? null : `mics/${mic.id}`)}
            onRename={() => rename(`mics/${mic.id}`)}
            activity={<LevelBar at={`mics/${mic.id}`} />}
          />
        ))}
        <Heading title="Layer sets: one layer of each sounds" add="Add layer set" onAdd={() => makeUnit("sets")} />
        <SetLines onRename={rename} />
      </div>
      <div ref={detail} className="max-h-[48%] overflow-y-auto border-rule-strong border-t px-4 pt-2 pb-4 empty:hidden">
        <OutlineDetail address={opened} />
      </div>
    </div>
  );
}

function Heading({
  title,
  add,
  onAdd,
  children,
}: {
  title: string;
  add: string;
  onAdd: () => void;
  children?: React.ReactNode;
}) {
  return (
    <div className="mt-3 mb-0.5 flex items-center justify-between border-rule-strong border-b pb-0.5 text-ink-soft text-s first:mt-0">
      <h3>{title}</h3>
      <span className="flex">
        {children}
        <Button look="quiet" className="h-6 px-1.5" aria-label={add} title={add} onClick={onAdd}>
          <Plus size={13} aria-hidden />
        </Button>
      </span>
    </div>
  );
}

const keysOf = ({ kind, layer, id }: OutlineRow, layers: readonly Layer[]): readonly string[] =>
  kind === "group"
    ? [groupKey(layer, id)]
    : (layers.find((l) => l.id === id)?.groups.map((g) => groupKey(layer, g.id)) ?? []);

/** A row's name, with its layer's before it where there are several. */
const fullName = ({ kind, layer, name }: OutlineRow, layers: readonly Layer[]): string =>
  kind === "layer"
    ? `layer ${name}`
    : layers.length > 1
      ? `${layers.find((l) => l.id === layer)?.name ?? ""}: ${name}`
      : name;

/** Where a layer's sound has gone through all that is its own. */
function lastOf(layers: readonly Layer[], id: string): string {
  const insert = layers.find((l) => l.id === id)?.inserts.at(-1);
  return insert ? `layers/${id}/inserts/${insert.id}` : layerAddress(id);
}

const LevelBar = ({ at }: { at: string }) => <span data-level={at} className="block h-full w-0 bg-leaf" />;

/** The selected zones, to be dropped on a group. */
function ChosenZones({ count }: { count: number }) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({ id: CHOSEN_ZONES });
  return (
    <button
      ref={setNodeRef}
      type="button"
      {...attributes}
      {...listeners}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      className={`my-1 flex h-6 w-full touch-none cursor-grab items-center rounded-s bg-tint-cobalt px-2 text-s${isDragging ? " relative z-20 opacity-80" : ""}`}
    >
      {plural(count, "selected zone")}: drag onto a group
    </button>
  );
}

/** Where rows are dragged; what happens is spoken. */
function Sorted({ rows, children }: { rows: readonly OutlineRow[]; children: React.ReactNode }) {
  const sensors = useListSensors();
  const nameOf = (address: unknown) =>
    address === CHOSEN_ZONES ? "The selected zones" : (rows.find((r) => r.address === address)?.name ?? "");
  const ended = ({ active, over }: DragEndEvent) => {
    const edit = over && dropOn(rows, String(active.id), String(over.id), useView.getState().zoneIds);
    if (edit) session.commit(edit);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={ended}
      accessibility={{
        announcements: {
          onDragStart: ({ active }) => `${nameOf(active.id)}: held.`,
          onDragOver: ({ active, over }) => (over ? `${nameOf(active.id)}: over ${nameOf(over.id)}.` : undefined),
          onDragEnd: ({ active, over }) => (over ? `${nameOf(active.id)}: let go at ${nameOf(over.id)}.` : undefined),
          onDragCancel: ({ active }) => `${nameOf(active.id)}: where it was.`,
        },
        screenReaderInstructions: { draggable: "Space takes hold of it, arrows move it, Space again lets it go." },
      }}
    >
      <SortableContext items={rows.map((r) => r.address)} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}
