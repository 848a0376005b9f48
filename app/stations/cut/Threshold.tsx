import { type RefObject, useRef } from "react";
import { formatNumber, parseNumber } from "../../../core/params";
import { Hint } from "../../widgets/Button";
import { Scale } from "../../widgets/Scale";
import { Well } from "../../widgets/Well";

const LEAST = 6;
const MOST = 60;
/** Pause after the last movement by wheel or keys, until what was found is measured. */
const PAUSE = 350;

interface ThresholdProps {
  readonly value: number;
  readonly show: (threshold: number) => void;
  readonly settle: (threshold: number) => void;
}

/** The threshold above the noise floor: found live while it moves, measured once it rests. */
export function Threshold({ value, show, settle }: ThresholdProps) {
  const timer: RefObject<ReturnType<typeof setTimeout> | null> = useRef(null);
  const move = (next: number) => {
    show(next);
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(() => settle(next), PAUSE);
  };
  const typed = (text: string) => {
    const parsed = parseNumber("decibels", text);
    if (parsed === null) return false;
    settle(Math.min(MOST, Math.max(LEAST, parsed)));
    return true;
  };
  const text = formatNumber("decibels", value);
  return (
    <div className="flex w-[240px] items-center gap-2">
      <Hint text="How far above the take's own noise floor a sound must rise to count">
        <span>Threshold</span>
      </Hint>
      <Scale
        label="Threshold"
        travel={(value - LEAST) / (MOST - LEAST)}
        text={text}
        set={(t) => move(Math.round((LEAST + t * (MOST - LEAST)) * 2) / 2)}
        reset={() => move(18)}
      />
      <Well
        label="Threshold value"
        text={text}
        width={72}
        align="right"
        onType={typed}
        onStep={(n) => move(Math.min(MOST, Math.max(LEAST, value + n)))}
      />
    </div>
  );
}
