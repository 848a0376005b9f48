import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { GripVertical } from "lucide-react";
import type { ReactNode } from "react";

/** How lists are dragged: by a pointer after a few pixels, or by the keyboard. */
export const useListSensors = () =>
  useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );

type Sortable = ReturnType<typeof useSortable>;

/** What a line of a list is dragged by. */
export const Grip = ({
  name,
  sortable: { attributes, listeners, setActivatorNodeRef },
  className = "size-6",
}: {
  name: string;
  sortable: Pick<Sortable, "attributes" | "listeners" | "setActivatorNodeRef">;
  className?: string;
}) => (
  <button
    ref={setActivatorNodeRef}
    type="button"
    {...attributes}
    {...listeners}
    aria-label={`Move ${name}`}
    className={`grid shrink-0 touch-none place-items-center rounded-m text-ink-soft hover:bg-well ${className}`}
  >
    <GripVertical size={13} aria-hidden />
  </button>
);

interface SortableListProps {
  readonly label: string;
  readonly ids: readonly string[];
  readonly nameOf: (id: string) => string;
  /** Something was moved from one place to another. */
  readonly onMove: (from: number, to: number) => void;
  /** One line; `grip` is what it is dragged by. */
  readonly children: (id: string, grip: ReactNode) => ReactNode;
  readonly className?: string;
}

/** A list whose order is changed by dragging a grip, or by Space and the arrow keys on it; what happens is spoken. */
export function SortableList({ label, ids, nameOf, onMove, children, className }: SortableListProps) {
  const sensors = useListSensors();
  const ended = ({ active, over }: DragEndEvent) => {
    const [from, to] = [ids.indexOf(String(active.id)), ids.indexOf(String(over?.id))];
    if (from >= 0 && to >= 0 && from !== to) onMove(from, to);
  };
  const place = (id: unknown) => `place ${ids.indexOf(String(id)) + 1} of ${ids.length}`;
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={ended}
      accessibility={{
        announcements: {
          onDragStart: ({ active }) => `${nameOf(String(active.id))} is held, at ${place(active.id)}.`,
          onDragOver: ({ active, over }) =>
            over ? `${nameOf(String(active.id))} would go to ${place(over.id)}.` : undefined,
          onDragEnd: ({ active, over }) =>
            over ? `${nameOf(String(active.id))} is at ${place(over.id)} now.` : undefined,
          onDragCancel: ({ active }) => `${nameOf(String(active.id))} stays where it was.`,
        },
        screenReaderInstructions: { draggable: "Space takes hold of it, arrows move it, Space again lets it go." },
      }}
    >
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy}>
        <ol aria-label={label} className={className}>
          {ids.map((id) => (
            <Line key={id} id={id} name={nameOf(id)}>
              {(grip) => children(id, grip)}
            </Line>
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

function Line({ id, name, children }: { id: string; name: string; children: (grip: ReactNode) => ReactNode }) {
  const sortable = useSortable({ id });
  const { setNodeRef, transform, transition, isDragging } = sortable;
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={isDragging ? "relative z-10 opacity-80" : undefined}
    >
      {children(<Grip name={name} sortable={sortable} />)}
    </li>
  );
}
