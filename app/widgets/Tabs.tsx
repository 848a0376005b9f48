import { Tabs as Parts } from "radix-ui";
import type { ReactNode } from "react";
import { cx } from "./class-names";

interface TabsProps<Id extends string> {
  /** The panel that is shown. */
  readonly shown: Id;
  readonly onShow: (id: Id) => void;
  readonly children: ReactNode;
}

/** Panels of which one is shown: a `TabRow` and a `TabPanel` for each of its tabs stand anywhere within. */
export function Tabs<Id extends string>({ shown, onShow, children }: TabsProps<Id>) {
  return (
    <Parts.Root className="contents" value={shown} onValueChange={(id) => onShow(id as Id)}>
      {children}
    </Parts.Root>
  );
}

interface Tab {
  readonly id: string;
  readonly label: string;
  /** A count beside the label. */
  readonly count?: string | null;
}

/** The row of tabs: Tab reaches it, arrow keys go through it. */
export function TabRow(props: { label: string; tabs: readonly Tab[]; disabled?: boolean; className?: string }) {
  return (
    <Parts.List aria-label={props.label} className={cx("flex h-7 shrink-0", props.className)}>
      {props.tabs.map(({ id, label, count }) => (
        <Parts.Trigger
          key={id}
          value={id}
          disabled={props.disabled}
          className="border-transparent border-b-2 px-3 text-ink-soft hover:text-ink focus-visible:shadow-[inset_0_0_0_2px_var(--cobalt)]! data-[state=active]:border-cobalt data-[state=active]:font-semibold data-[state=active]:text-ink"
        >
          {label}
          {count && <span className="num ml-1 text-[11px]">{count}</span>}
        </Parts.Trigger>
      ))}
    </Parts.List>
  );
}

/** What belongs to a tab; it is made only while it is shown. */
export function TabPanel({ id, children }: { id: string; children: ReactNode }) {
  return (
    <Parts.Content value={id} className="flex min-h-0 flex-1 flex-col">
      {children}
    </Parts.Content>
  );
}
