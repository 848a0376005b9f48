import { type ReactNode, type RefObject, useEffect, useRef } from "react";
import { useInstrument } from "../state/use-session";
import { cx } from "../widgets/class-names";
import { Split } from "../widgets/Split";

interface StationProps {
  readonly title: string;
  /** Facts beside the title, in figures. */
  readonly facts?: ReactNode;
  /** Actions at the right of the bar; the primary one last. */
  readonly actions?: ReactNode;
  readonly inspector?: ReactNode;
  /** The inspector fills its side and scrolls by itself. */
  readonly filling?: boolean;
  readonly children: ReactNode;
}

/** Width of the inspector until somebody moves its border; the trace panel below it is as wide. */
const INSPECTOR = 268;

let shown: string | null = null;

/** Names the page's title after the station, and brings the focus there when one goes from another station to it. */
function useArrival(title: string): RefObject<HTMLElement | null> {
  const main = useRef<HTMLElement>(null);
  const name = useInstrument((i) => i.about.name);
  useEffect(() => {
    document.title = `${title} · ${name} · Vise`;
  }, [title, name]);
  useEffect(() => {
    // Not at the very first: then the page itself begins at its top.
    const busy = document.activeElement?.closest("[role=dialog], input, textarea") != null;
    if (shown !== null && shown !== title && !busy) main.current?.focus({ preventScroll: true });
    shown = title;
  }, [title]);
  return main;
}

/** The shape of a station: a bar, the work surface, an inspector. */
export function Station({ title, facts, actions, inspector, filling = false, children }: StationProps) {
  const main = useArrival(title);
  return (
    <Split
      id="inspector"
      label="Width of the inspector"
      as="columns"
      size={INSPECTOR}
      least={[420, 220]}
      fixed
      first={
        <main ref={main} tabIndex={-1} className="flex min-h-0 min-w-0 flex-1 flex-col bg-sheet outline-none">
          <div className="flex h-12 shrink-0 items-center gap-2.5 overflow-hidden border-rule border-b px-3.5">
            <h1 className="shrink-0 font-display font-semibold text-l">{title}</h1>
            <span className="num min-w-0 truncate text-[12px] text-ink-soft">{facts}</span>
            <span className="flex-1" />
            {actions}
          </div>
          <div className="relative flex min-h-0 flex-1 flex-col">{children}</div>
        </main>
      }
      second={
        <aside
          aria-label="Inspector"
          className={cx(
            "min-h-0 flex-1 bg-sheet",
            filling ? "flex flex-col overflow-hidden" : "overflow-y-auto overflow-x-hidden px-4 pt-3.5 pb-40",
          )}
        >
          {inspector}
        </aside>
      }
    />
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
