import { ChevronDown, ChevronUp } from "lucide-react";
import type { PointerEvent } from "react";
import { useStore } from "zustand";
import { nameOfNote } from "../../core/audio";
import { parseNumber } from "../../core/params";
import { engine } from "../state/engine";
import { foldKeys, setView, useView } from "../state/view";
import { Button, Hint } from "../widgets/Button";
import { useDrag } from "../widgets/use-drag";
import { Well } from "../widgets/Well";

interface WheelProps {
  readonly label: string;
  readonly help: string;
  /** 0 at the bottom, 1 at the top. */
  readonly value: number;
  readonly set: (value: number) => void;
  readonly release?: () => void;
  readonly colour: string;
}

const within = (value: number): number => Math.min(1, Math.max(0, value));

function Wheel({ label, help, value, set, release, colour }: WheelProps) {
  const put = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    set(within(1 - (event.clientY - box.top - 4) / (box.height - 9)));
  };
  const drag = useDrag<number>({
    start: (event) => {
      put(event);
      return value;
    },
    move: (_, event) => put(event),
    giveUp: (before) => set(before),
    over: () => release?.(),
  });
  return (
    <Hint text={help}>
      <div
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-orientation="vertical"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(value * 100)}
        className="relative h-[78px] w-5 touch-none rounded-[2px] border border-rule-strong bg-well"
        {...drag}
        onKeyDown={(event) => {
          const by = { ArrowUp: 0.05, ArrowDown: -0.05 }[event.key];
          if (by === undefined) return;
          event.preventDefault();
          set(within(value + by));
        }}
        onDoubleClick={() => set(release ? 0.5 : 0)}
      >
        <div className="absolute inset-x-px h-[7px]" style={{ top: (1 - value) * 67 + 1, background: colour }} />
      </div>
    </Hint>
  );
}

/** Bend and mod wheel beside the keybed, and where the computer keyboard plays. */
export function Wheels() {
  const bend = useStore(engine.store, (s) => s.bend);
  const wheel = useStore(engine.store, (s) => s.wheel);
  const octave = useView((v) => v.octave);
  const strength = useView((v) => v.strength);
  const folded = useView((v) => v.keysFolded);
  const setBend = (value: number) => {
    const whole = Math.min(16383, Math.round(value * 16384));
    engine.midi(0xe0, whole & 127, whole >> 7);
  };
  const fold = (
    <Button
      look="quiet"
      aria-label={folded ? "Fold the keyboard out" : "Fold the keyboard to a strip"}
      aria-expanded={!folded}
      hint={folded ? "Fold the keyboard out" : "Fold the keyboard to a strip"}
      keys="Alt+K"
      onClick={() => foldKeys(!folded)}
      className="h-6! px-1"
    >
      {folded ? <ChevronUp size={14} aria-hidden /> : <ChevronDown size={14} aria-hidden />}
    </Button>
  );
  if (folded)
    return (
      <div className="flex w-[150px] shrink-0 items-center justify-between border-rule border-r pr-1.5 pl-3.5 text-ink-soft text-s">
        <span className="num">keys {nameOfNote(octave)}</span>
        {fold}
      </div>
    );
  return (
    <div className="relative flex w-[150px] shrink-0 gap-2.5 border-rule border-r px-3.5 py-3">
      <div className="absolute top-1 right-1.5">{fold}</div>
      <Wheel
        label="Pitch wheel"
        help="Pitch wheel: springs back"
        value={(bend + 1) / 2}
        set={setBend}
        release={() => setBend(0.5)}
        colour="var(--ink)"
      />
      <Wheel
        label="Mod wheel"
        help="Mod wheel (controller 1)"
        value={wheel}
        set={(v) => engine.midi(0xb0, 1, Math.round(v * 127))}
        colour="var(--plum)"
      />
      <div className="flex flex-col justify-between text-ink-soft text-s">
        <span>
          wheel&nbsp;<span className="num">{Math.round(wheel * 127)}</span>
        </span>
        <Hint text="Velocity of every note that is played by keys, mouse or MIDI; or as played (–)">
          <span className="flex items-center gap-1">
            vel.
            <Well
              label="Fixed velocity"
              text={strength === null ? "–" : String(strength)}
              width={46}
              onType={(text) => {
                const free = /^\s*(free|(as )?played|-|–)?\s*$/i.test(text);
                const typed = parseNumber("count", text);
                if (!free && (typed === null || typed < 1 || typed > 127)) return false;
                setView({ strength: free || typed === null ? null : Math.round(typed) });
                return true;
              }}
              onStep={(steps) => setView({ strength: Math.min(127, Math.max(1, (strength ?? 96) + steps)) })}
            />
          </span>
        </Hint>
        <Hint text="The computer keyboard plays from here: the letters from the left; Page Up and Page Down move it by an octave, with Shift by a semitone">
          <button
            type="button"
            className="num rounded-[2px] bg-well px-1 text-left hover:text-ink"
            onClick={() => setView({ octave: octave >= 84 ? 24 : octave + 12 })}
          >
            keys {nameOfNote(octave)}
          </button>
        </Hint>
      </div>
    </div>
  );
}
