import type { ReactNode } from "react";
import { Group, type Layout, Panel, Separator, useDefaultLayout } from "react-resizable-panels";
import { cx } from "./class-names";

interface SplitProps {
  /** Under which name its border is remembered in this browser. */
  readonly id: string;
  readonly label: string;
  /** `rows`: one above the other; `columns`: side by side. */
  readonly as: "rows" | "columns";
  readonly first: ReactNode;
  readonly second: ReactNode;
  /** Size of the second part until somebody moves the border: pixels, or a share as `"40%"`. */
  readonly size: number | string;
  /** Least sizes of both, in pixels. */
  readonly least: readonly [number, number];
  /** Whether the second keeps its size while the window changes; otherwise both do in proportion. */
  readonly fixed?: boolean;
  readonly onLayout?: (layout: Layout) => void;
}

/** Two parts that share a room, with a border between them that is moved by dragging or by the arrow keys. */
export function Split({ id, label, as, first, second, size, least, fixed, onLayout }: SplitProps) {
  const { defaultLayout, onLayoutChanged } = useDefaultLayout({ id: `vise-split-${id}`, storage: localStorage });
  const rows = as === "rows";
  return (
    <Group
      orientation={rows ? "vertical" : "horizontal"}
      defaultLayout={defaultLayout}
      onLayoutChanged={onLayoutChanged}
      onLayoutChange={onLayout}
      className="min-h-0 min-w-0 flex-1"
    >
      <Panel id="first" minSize={least[0]} className="flex min-h-0 min-w-0 flex-col">
        {first}
      </Panel>
      <Separator
        aria-label={label}
        className={cx(
          "group relative shrink-0 bg-rule outline-none transition-colors hover:bg-cobalt focus-visible:bg-cobalt data-[separator=active]:bg-cobalt",
          rows ? "h-px" : "w-px",
        )}
      >
        <span
          aria-hidden
          className={cx(
            "absolute bg-rule-strong group-hover:bg-cobalt",
            rows ? "-top-px left-1/2 h-[3px] w-7 -translate-x-1/2" : "top-1/2 -left-px h-7 w-[3px] -translate-y-1/2",
          )}
        />
      </Separator>
      <Panel
        id="second"
        minSize={least[1]}
        defaultSize={size}
        groupResizeBehavior={fixed ? "preserve-pixel-size" : "preserve-relative-size"}
        className="flex min-h-0 min-w-0 flex-col"
      >
        {second}
      </Panel>
    </Group>
  );
}
