import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { horizontalListSortingStrategy, SortableContext, useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { Headphones } from "lucide-react";
import { Fragment, memo, type ReactNode, type RefObject, useEffect, useRef } from "react";
import { useStore } from "zustand";
import { decibelsOf } from "../../../core/audio";
import type { Unit, UnitList } from "../../../core/instrument";
import { engine } from "../../state/engine";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { CompareRow } from "../../units/CompareButton";
import { arrangementCommands, END, layerCommands, moveTo } from "../../units/unit-commands";
import { listOfAddress } from "../../units/unit-lists";
import { isPictured } from "../../units/unit-picture";
import { Button } from "../../widgets/Button";
import { WithMenu, WordMenu } from "../../widgets/CommandMenu";
import { cx } from "../../widgets/class-names";
import { AddLayer, AddUnit } from "./AddUnit";
import { LinksView } from "./LinksView";
import { isCrowded, type Lane, type LanePart, lanesOf } from "./sound-lists";
import { UnitChip } from "./UnitChip";

/** The sound's way behind a unit, or into a row: as thick as it is loud. */
const Line = ({ after, off }: { after?: string; off?: boolean }) => (
  <span
    aria-hidden
    data-after={after}
    className={cx("h-[2px] w-4 shrink-0 self-center", off ? "bg-rule-strong" : "bg-ink")}
  />
);

/** Pixels of a line for a peak: 1 for silence, 12 at full level. */
const thicknessOf = (peak: number): number => 1 + Math.min(11, Math.max(0, 11 * (1 + decibelsOf(peak) / 60)));

/** Draws how loud it is between units, as long as the station is there; without the page being drawn anew. */
function useLoudness(list: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const show = (peaks: Readonly<Record<string, number>> | null) => {
      for (const line of list.current?.querySelectorAll<HTMLElement>("[data-after]") ?? []) {
        const peak = peaks?.[line.dataset.after ?? ""] ?? 0;
        line.style.height = peaks ? `${thicknessOf(peak)}px` : "";
        line.style.backgroundColor = peak > 1 ? "var(--vermilion)" : "";
      }
    };
    const stop = engine.watch();
    const unsubscribe = engine.store.subscribe(({ peaks }, before) => {
      if (peaks !== before.peaks) show(peaks);
    });
    return () => {
      unsubscribe();
      stop();
    };
  }, [list]);
}

/** The signal path from left to right: each layer through its units, what goes to the sends, and the whole's chain. */
export function SignalPath() {
  const layers = useInstrument((i) => i.layers);
  const sends = useInstrument((i) => i.sends);
  const effects = useInstrument((i) => i.effects);
  const open = useView((v) => v.soundUnit);
  const linked = useView((v) => v.soundLinks);
  const list = useRef<HTMLOListElement>(null);
  useLoudness(list);
  const lanes = lanesOf({ layers, sends, effects });
  const small = isCrowded(lanes);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const ended = ({ active, over }: DragEndEvent) => {
    const from = listOfAddress(String(active.id));
    const to = over && listOfAddress(String(over.id));
    if (from && to) moveTo(from, to);
  };
  if (linked)
    return (
      <>
        <LinksView />
        <div className="flex h-8 shrink-0 items-center border-rule border-t pl-3.5">
          <LayersRow />
        </div>
      </>
    );
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={ended}>
      <ol ref={list} aria-label="Signal path" className="min-h-0 flex-1 overflow-auto py-2">
        {lanes.map((lane, i) => (
          <Fragment key={lane.id}>
            <LaneRow lane={lane} open={open} small={small} />
            {lane.kind === "layer" && lanes[i + 1]?.kind !== "layer" && (
              <li className="flex h-8 items-center pl-3.5">
                <LayersRow />
              </li>
            )}
          </Fragment>
        ))}
      </ol>
    </DndContext>
  );
}

/** What can be added to the layers, and the other way to look at them. */
function LayersRow() {
  const linked = useView((v) => v.soundLinks);
  return (
    <>
      <AddLayer />
      <span className="w-2" />
      <WordMenu word="Layer recipes" commands={arrangementCommands()} />
      <span className="w-2" />
      <Button
        pressed={linked}
        title="How layers are routed into each other"
        onClick={() => setView({ soundLinks: !linked })}
      >
        Layer routing
      </Button>
    </>
  );
}

/** A row's name; a layer's has a menu of what can be done with it. */
function LaneName({ lane: { id, kind, name } }: { lane: Lane }) {
  const text = (
    <span className="truncate" title={name}>
      {name}
    </span>
  );
  return kind === "layer" ? <WithMenu commands={layerCommands(id.slice("layers/".length))}>{text}</WithMenu> : text;
}

/** Lets a layer be heard alone, or with others that are; it is nothing of the document's. */
function Solo({ layer, name }: { layer: string; name: string }) {
  const solo = useStore(engine.store, (s) => s.solo);
  const on = solo.includes(layer);
  return (
    <button
      type="button"
      aria-label={`Solo layer ${name}`}
      aria-pressed={on}
      title={on ? "Solo off" : "Solo; more than one layer may be"}
      onClick={() => engine.solo(on ? solo.filter((id) => id !== layer) : [...solo, layer])}
      className={cx(
        "-ml-1 flex w-fit items-center gap-1 rounded-[2px] px-1 text-s",
        on ? "bg-ochre text-on-spot" : "text-ink-soft hover:bg-well hover:text-ink",
      )}
    >
      <Headphones size={11} aria-hidden /> {on ? "alone" : "layer"}
    </button>
  );
}

/** What is heard between a part and the one before it. */
function before(lane: Lane, i: number): string {
  const { id, parts } = lane;
  for (let p = i - 1; p >= 0; p--) {
    const part = parts[p] as LanePart;
    // What the voices put out is measured as it leaves them, so that level and envelope change nothing of it any more.
    if (part.kind === "unit")
      return part.unit.kind === "strip" ? id : part.unit.kind === "amp" ? before(lane, p) : part.address;
    const unit = part.units.at(-1);
    if (unit) return `${part.list}/${unit.id}`;
  }
  return id;
}

/** What is heard at the end of a row: its last unit on the bus, else what went in. */
function lastOf(lane: Lane): string {
  const part = lane.parts.at(-1);
  const unit = part?.kind === "list" ? part.units.at(-1) : undefined;
  return part?.kind === "list" && unit ? `${part.list}/${unit.id}` : lane.id;
}

const LaneRow = ({ lane, open, small }: { lane: Lane; open: string | null; small: boolean }) => {
  const here = open?.startsWith(`${lane.id}/`) ?? false;
  return (
    <li className={cx("flex min-w-max items-center pr-4", lane.kind === "whole" && "mt-1 border-rule border-t pt-1")}>
      <span
        className={cx(
          "sticky left-0 z-10 flex h-[42px] w-[104px] shrink-0 flex-col justify-center bg-sheet pl-3.5 leading-tight",
          here && "font-semibold",
        )}
      >
        <LaneName lane={lane} />
        {lane.kind === "layer" ? (
          <Solo layer={lane.id.slice("layers/".length)} name={lane.name} />
        ) : (
          <span className="text-ink-soft text-s">{lane.kind === "send" ? "send" : "all layers"}</span>
        )}
      </span>
      {lane.kind !== "layer" && <Line after={lane.id} />}
      {lane.parts.map((part, i) => (
        <Fragment key={part.kind === "unit" ? part.address : part.list}>
          {i > 0 && <Line after={before(lane, i)} />}
          <Part part={part} open={open} where={lane.name} small={small} />
        </Fragment>
      ))}
      <Line after={lastOf(lane)} />
      <span className="shrink-0 text-ink-soft text-s">▸ {lane.goes}</span>
    </li>
  );
};

const Part = memo(function Part({
  part,
  open,
  where,
  small,
}: {
  part: LanePart;
  open: string | null;
  where: string;
  small: boolean;
}) {
  if (part.kind === "unit")
    return (
      <UnitChip
        address={part.address}
        unit={part.unit}
        open={part.address === open}
        small={small && isPictured(part.unit)}
      />
    );
  const { list, units, place } = part;
  return (
    <SortableContext items={units.map((u) => `${list}/${u.id}`)} strategy={horizontalListSortingStrategy}>
      {units.map((unit) => (
        <Fragment key={unit.id}>
          <Sortable
            address={`${list}/${unit.id}`}
            unit={unit}
            open={open === `${list}/${unit.id}`}
            small={small && isPictured(unit)}
          />
          <Line after={`${list}/${unit.id}`} off={Number(unit.params.on ?? 1) < 0.5} />
        </Fragment>
      ))}
      <End list={list}>
        <AddUnit list={list} place={place} where={place === "stage" ? `the voices of ${where}` : where} />
        {units.length > 1 && place !== "stage" && <CompareRow list={list} where={where} />}
      </End>
    </SortableContext>
  );
});

/** The end of a list, where a unit can be dropped too. */
function End({ list, children }: { list: UnitList; children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: `${list}/${END}` });
  return (
    <div ref={setNodeRef} className={cx("flex items-center rounded-m", isOver && "bg-tint-cobalt")}>
      {children}
    </div>
  );
}

function Sortable(chip: { address: string; unit: Unit; open: boolean; small: boolean }) {
  const { address } = chip;
  const { listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: address });
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={cx("touch-none", isDragging && "z-10 opacity-80")}
    >
      <UnitChip {...chip} />
    </div>
  );
}
