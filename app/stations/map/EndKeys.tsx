import { useEffect, useRef, useState } from "react";
import { useStore } from "zustand";
import { nameOfNote, parseNote } from "../../../core/audio";
import { engine } from "../../state/engine";
import { Button } from "../../widgets/Button";
import { Row } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";

interface Ends {
  readonly low: number;
  readonly high: number;
}

/** The lowest and the highest key of something: typed, stepped, or set by playing the two. */
export function EndKeys({ ends, onEnds }: { ends: Ends; onEnds: (ends: Ends) => void }) {
  const [asked, setAsked] = useState<"low" | "high" | null>(null);
  const held = useStore(engine.store, (s) => s.held);
  const before = useRef(held);
  useEffect(() => {
    const [key] = [...held.keys()].filter((k) => !before.current.has(k));
    before.current = held;
    if (asked === null || key === undefined) return;
    onEnds(
      asked === "low"
        ? { low: key, high: Math.max(key, ends.high) }
        : { low: Math.min(ends.low, key), high: Math.max(ends.low, key) },
    );
    setAsked(asked === "low" ? "high" : null);
  }, [held, asked, ends, onEnds]);
  const row = (label: string, id: keyof Ends) => (
    <Row label={label}>
      <Well
        label={label}
        text={`${nameOfNote(ends[id])} · ${ends[id]}`}
        width={74}
        onType={(text) => {
          const parsed = parseNote(text.replace(/\s*·.*$/, ""));
          if (parsed !== null) onEnds({ ...ends, [id]: parsed });
          return parsed !== null;
        }}
        onStep={(steps) => onEnds({ ...ends, [id]: Math.min(127, Math.max(0, ends[id] + steps)) })}
      />
      {id === "low" && (
        <Button
          pressed={asked !== null}
          hint="Sets both by the next two keys that are played, the lowest first"
          className="h-6!"
          onClick={(event) => {
            setAsked(asked === null ? "low" : null);
            // The letters of the computer play only where nothing else takes them.
            event.currentTarget.blur();
          }}
        >
          {asked === null ? "Play them" : asked === "low" ? "… lowest" : "… highest"}
        </Button>
      )}
    </Row>
  );
  return (
    <>
      {row("Lowest key", "low")}
      {row("Highest key", "high")}
    </>
  );
}
