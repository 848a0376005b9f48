import { useEffect, useState } from "react";
import { useStore } from "zustand";
import { engine } from "../state/engine";
import { useHeard } from "../state/use-heard";
import { traceText } from "./trace-text";

const ago = (milliseconds: number): string =>
  milliseconds < 1000
    ? `${Math.round(milliseconds / 10) * 10} ms ago`
    : milliseconds < 60000
      ? `${Math.round(milliseconds / 1000)} s ago`
      : "a while ago";

/** The note trace: what happened to the last note, always. */
export function TracePanel() {
  const instrument = useHeard((i) => i);
  const trace = useStore(engine.store, (s) => s.trace);
  const tracedAt = useStore(engine.store, (s) => s.tracedAt);
  const loading = useStore(engine.store, (s) => s.tracedLoading);
  const failure = useStore(engine.store, (s) => s.failure);
  const [now, setNow] = useState(0);
  useEffect(() => {
    setNow(performance.now());
    const timer = setInterval(() => setNow(performance.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  if (failure) {
    return (
      <Panel>
        <b className="text-vermilion">There is no sound</b>
        <p className="text-ink-soft">The audio could not start: {failure}</p>
      </Panel>
    );
  }
  if (!trace) {
    return (
      <Panel>
        <b>Note trace</b>
        <p className="text-ink-soft">Play a key: here it says which sample answered, which did not, and why.</p>
      </Panel>
    );
  }
  const text = traceText(trace, instrument, loading);
  return (
    <Panel>
      <div className="flex justify-between">
        <b className={text.silent ? "num text-ochre" : "num"}>{text.headline}</b>
        <span className="num text-ink-faint">{ago(Math.max(0, now - tracedAt))}</span>
      </div>
      {text.played.map((line) => (
        <p key={line} className="truncate text-ink-soft" title={line}>
          {line}
        </p>
      ))}
      <p className={text.silent ? "text-ochre" : "text-ink-faint"}>{text.notes.join(" · ")}</p>
    </Panel>
  );
}

function Panel({ children }: { children: React.ReactNode }) {
  return (
    <section
      aria-label="Note trace"
      aria-live="off"
      data-testid="trace"
      className="w-[268px] shrink-0 overflow-hidden border-rule border-l bg-sheet px-4 py-2 text-[12px] leading-snug"
    >
      {children}
    </section>
  );
}
