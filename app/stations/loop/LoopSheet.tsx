import { listSampled, type Zone } from "../../../core/instrument";
import type { Wave } from "../../state/audio-queries";
import { useInstrument } from "../../state/use-session";
import type { Span } from "../../widgets/wave-span";
import { Course } from "./Course";
import { LoopWave } from "./LoopWave";
import type { UnitFacts } from "./loop-units";
import { SeamAndLevel } from "./Seam";

interface LoopSheetProps {
  readonly id: string;
  readonly wave: Wave;
  readonly facts: UnitFacts;
  readonly span: Span;
  readonly onSpan: (span: Span) => void;
  readonly change: (what: string, fn: (zone: Zone) => Zone, gesture: string) => void;
}

/** The wave with the loop, its course, and its seam: what follows every move of a flag. */
export function LoopSheet({ id, wave, facts, span, onSpan, change }: LoopSheetProps) {
  const zone = useInstrument((i) => listSampled(i).find((z) => z.id === id));
  if (!zone) return null;
  const { loop } = zone;
  return (
    <>
      <LoopWave zone={zone} wave={wave} facts={facts} span={span} onSpan={onSpan} change={change} />
      <Course zone={zone} span={span} />
      {loop && wave.close && (
        <SeamAndLevel
          sha={zone.sample}
          samples={wave.close.values}
          rate={facts.rate}
          start={zone.start}
          end={zone.end}
          reverse={zone.reverse}
          loop={loop}
        />
      )}
    </>
  );
}
