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
import { Fragment, memo, type ReactNode, type RefObject, useEffect, useRef } from "react";
import { decibelsOf } from "../../../core/audio";
import type { Unit, UnitList } from "../../../core/instrument";
import { engine } from "../../state/engine";
import { useInstrument } from "../../state/use-session";
import { useView } from "../../state/view";
import { cx } from "../../widgets/class-names";
import { AddUnit } from "./AddUnit";
import { END, moveTo } from "./sound-commands";
import { type Lane, type LanePart, lanesOf, listOfAddress } from "./sound-lists";
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

/** The way of the sound from left to right: each layer through its units, what goes to the sends, and the whole's chain. */
export function SignalPath() {
  const layers = useInstrument((i) => i.layers);
  const sends = useInstrument((i) => i.sends);
  const effects = useInstrument((i) => i.effects);
  const open = useView((v) => v.soundUnit);
  const list = useRef<HTMLOListElement>(null);
  useLoudness(list);
  const lanes = lanesOf({ layers, sends, effects });
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const ended = ({ active, over }: DragEndEvent) => {
    const from = listOfAddress(String(active.id));
    const to = over && listOfAddress(String(over.id));
    if (from && to) moveTo(from, to);
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={ended}>
      <ol ref={list} aria-label="The way of the sound" className="min-h-0 flex-1 overflow-auto py-2">
        {lanes.map((lane) => (
          <LaneRow key={lane.id} lane={lane} open={open} />
        ))}
      </ol>
    </DndContext>
  );
}

/** What is heard at the end of a row: its last unit on the bus, else what went in. */
function lastOf(lane: Lane): string {
  const part = lane.parts.at(-1);
  const unit = part?.kind === "list" ? part.units.at(-1) : undefined;
  return part?.kind === "list" && unit ? `${part.list}/${unit.id}` : lane.id;
}

const LaneRow = ({ lane, open }: { lane: Lane; open: string | null }) => {
  const here = open?.startsWith(`${lane.id}/`) ?? false;
  return (
    <li className={cx("flex min-w-max items-center pr-4", lane.kind === "whole" && "mt-1 border-rule border-t pt-1")}>
      <span
        className={cx(
          "sticky left-0 z-10 flex h-[42px] w-[104px] shrink-0 flex-col justify-center bg-sheet pl-3.5 leading-tight",
          here && "font-semibold",
        )}
      >
        <span className="truncate" title={lane.name}>
          {lane.name}
        </span>
        <span className="text-ink-soft text-s">
          {lane.kind === "layer" ? "layer" : lane.kind === "send" ? "send" : "all layers"}
        </span>
      </span>
      {lane.kind !== "layer" && <Line after={lane.id} />}
      {lane.parts.map((part, i) => (
        <Fragment key={part.kind === "unit" ? part.address : part.list}>
          {i > 0 && <Line {...(i === lane.parts.length - 1 ? { after: lane.id } : {})} />}
          <Part part={part} open={open} where={lane.name} />
        </Fragment>
      ))}
      <Line after={lastOf(lane)} />
      <span className="shrink-0 text-ink-soft text-s">
        {lane.kind === "whole" ? "▸ level, limiter, out" : "▸ the whole"}
      </span>
    </li>
  );
};

const Part = memo(function Part({ part, open, where }: { part: LanePart; open: string | null; where: string }) {
  if (part.kind === "unit") return <UnitChip address={part.address} unit={part.unit} open={part.address === open} />;
  const { list, units, place } = part;
  return (
    <SortableContext items={units.map((u) => `${list}/${u.id}`)} strategy={horizontalListSortingStrategy}>
      {units.map((unit) => (
        <Fragment key={unit.id}>
          <Sortable address={`${list}/${unit.id}`} unit={unit} open={open === `${list}/${unit.id}`} />
          <Line after={`${list}/${unit.id}`} off={Number(unit.params.on ?? 1) < 0.5} />
        </Fragment>
      ))}
      <End list={list}>
        <AddUnit list={list} place={place} where={place === "stage" ? `the voices of ${where}` : where} />
      </End>
    </SortableContext>
  );
});

/** The end of a list, where a unit can be dropped too. */
function End({ list, children }: { list: UnitList; children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: `${list}/${END}` });
  return (
    <div ref={setNodeRef} className={cx("rounded-m", isOver && "bg-tint-cobalt")}>
      {children}
    </div>
  );
}

function Sortable({ address, unit, open }: { address: string; unit: Unit; open: boolean }) {
  const { listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: address });
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={cx("touch-none", isDragging && "z-10 opacity-80")}
    >
      <UnitChip address={address} unit={unit} open={open} />
    </div>
  );
}
