import type { ReactNode } from "react";

interface StationProps {
  readonly title: string;
  /** Facts beside the title, in figures. */
  readonly facts?: ReactNode;
  /** Actions at the right of the bar; the primary one last. */
  readonly actions?: ReactNode;
  readonly inspector?: ReactNode;
  readonly children: ReactNode;
}

/** The shape of a station: a bar, the work surface, an inspector. */
export function Station({ title, facts, actions, inspector, children }: StationProps) {
  return (
    <>
      <main className="flex min-w-0 flex-1 flex-col bg-sheet">
        <div className="flex h-12 shrink-0 items-center gap-2.5 overflow-hidden border-rule border-b px-3.5">
          <h1 className="shrink-0 font-display font-semibold text-l">{title}</h1>
          <span className="num min-w-0 truncate text-[12px] text-ink-soft">{facts}</span>
          <span className="flex-1" />
          {actions}
        </div>
        <div className="relative flex min-h-0 flex-1 flex-col">{children}</div>
      </main>
      <aside
        aria-label="Inspector"
        className="w-[268px] shrink-0 overflow-y-auto overflow-x-hidden border-rule border-l bg-sheet px-4 py-3.5"
      >
        {inspector}
      </aside>
    </>
  );
}

/** What an empty station shows: why it is empty and what the next step is. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="m-auto max-w-[420px] p-8 text-center">
      <h2 className="mb-2 font-display font-semibold text-xl">{title}</h2>
      <div className="text-ink-soft">{children}</div>
    </div>
  );
}
