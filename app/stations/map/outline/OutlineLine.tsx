import { useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import type { KeyboardEvent, ReactNode } from "react";
import type { Command } from "../../../state/commands";
import { useView } from "../../../state/view";
import { WithMenu } from "../../../widgets/CommandMenu";
import { cx } from "../../../widgets/class-names";
import { Grip } from "../../../widgets/SortableList";
import { GroupSwitches } from "../GroupSwitches";
import { LevelLine } from "./LevelLine";

interface LineProps {
  readonly address: string;
  readonly name: string;
  /** What it is called where others may be called the same. */
  readonly full?: string;
  /** What stands behind the name, such as how many zones there are. */
  readonly count: string;
  /** Address of the unit with its level and pan; null shows none. */
  readonly faders: string | null;
  /** The groups, or the microphone, that its switches are for. */
  readonly keys: readonly string[];
  readonly commands: readonly Command[];
  readonly open: boolean;
  readonly onOpen: () => void;
  readonly onRename: () => void;
  /** What it is dragged by; none where its order means nothing. */
  readonly grip?: ReactNode;
  /** What shows how it sounds. */
  readonly activity: ReactNode;
  readonly mark?: string;
  readonly deep?: boolean;
  readonly strong?: boolean;
}

/** Arrows go to the name above or below. */
function go(event: KeyboardEvent<HTMLElement>): void {
  const step = { ArrowUp: -1, ArrowDown: 1 }[event.key];
  if (!step) return;
  const names = [
    ...(event.currentTarget.closest("[data-outline]")?.querySelectorAll<HTMLElement>("[data-name]") ?? []),
  ];
  names[names.indexOf(event.currentTarget) + step]?.focus();
  event.preventDefault();
  event.stopPropagation();
}

/** A line of the outline: what it is called, how it sounds, its switches, and its level below. */
export function Line(props: LineProps) {
  const { name, full, count, faders, keys, commands, open, onOpen, onRename, grip, activity, mark, deep, strong } =
    props;
  return (
    <div className={cx("border-rule border-b", open && "bg-tint-cobalt", deep && "pl-3")}>
      <div className="flex h-7 items-center gap-1">
        {grip ?? <span className="w-1.5" />}
        <span
          aria-hidden
          className="h-4 w-[5px] shrink-0"
          style={mark && mark !== "none" ? { background: `var(--mark-${mark})` } : undefined}
        />
        <WithMenu commands={commands}>
          <button
            type="button"
            data-name
            aria-pressed={open}
            title={name}
            onClick={onOpen}
            onDoubleClick={onRename}
            onKeyDown={(event) => {
              if (event.key === "F2") onRename();
              else go(event);
            }}
            className={cx("relative h-full min-w-8 flex-1 truncate px-1 text-left", strong && "font-semibold")}
          >
            {name}
            <span aria-hidden className="absolute inset-x-1 bottom-[2px] h-[3px]">
              {activity}
            </span>
          </button>
        </WithMenu>
        <span className="num shrink-0 px-1 text-right text-ink-soft text-s">{count}</span>
        <GroupSwitches keys={keys} name={full ?? name} />
      </div>
      {faders && <LevelLine at={faders} name={full ?? name} />}
    </div>
  );
}

/** A line that can be dragged to another place, and on which others can be dropped. */
export function DraggedLine(props: Omit<LineProps, "grip">) {
  const { address, name } = props;
  const sorted = useSortable({ id: address });
  const fromField = useView((v) => v.outlineOver === address);
  const { setNodeRef, transform, transition, isDragging, isOver } = sorted;
  return (
    <li
      ref={setNodeRef}
      data-outlined={address}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={cx(
        isDragging && "relative z-10 opacity-80",
        ((isOver && !isDragging) || fromField) && "bg-tint-cobalt",
      )}
    >
      <Line {...props} grip={<Grip name={name} sortable={sorted} className="h-6 w-4" />} />
    </li>
  );
}
