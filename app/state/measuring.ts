import { useEffect, useRef } from "react";
import { LiveMeasures, type Measured } from "../../core/analysis";
import { engine } from "./engine";

/** Bands of the spectra that are drawn. */
const BANDS = 320;
/** Milliseconds between two looks. */
const LOOK = 60;

/** What is heard, and what was measured of it. */
export interface Look {
  readonly measured: Measured;
  readonly left: Float32Array;
  readonly rate: number;
}

/** Measures what comes out again and again, once for all who want to be shown it. */
class Measuring {
  private readonly shown = new Set<(look: Look) => void>();
  private measures: LiveMeasures | null = null;
  private stop: (() => void) | null = null;
  private silent = false;

  /** Shows each look until it is told to stop. */
  show(take: (look: Look) => void): () => void {
    this.shown.add(take);
    this.silent = false;
    if (!this.stop) {
      const listening = engine.listen();
      const timer = setInterval(() => this.look(listening.read()), LOOK);
      this.stop = () => {
        clearInterval(timer);
        listening.stop();
      };
    }
    return () => {
      this.shown.delete(take);
      if (this.shown.size > 0) return;
      this.stop?.();
      this.stop = null;
    };
  }

  /** Lets go of the held peaks. */
  forget(): void {
    this.measures?.forget();
    this.silent = false;
  }

  private look(heard: { left: Float32Array; right: Float32Array; rate: number } | null): void {
    const { status, probe } = engine.store.getState();
    const { voices, left, right } = status;
    // Silence is looked at until all of it has gone by, then it isn't measured again and again.
    const quiet = voices === 0 && probe === null && Math.max(left, right) < 1e-6;
    if (!heard || (quiet && this.silent)) return;
    this.measures ??= new LiveMeasures(heard.rate, BANDS);
    const measured = this.measures.take(heard.left, heard.right);
    this.silent = quiet && measured.peak <= -120;
    for (const take of this.shown) take({ measured, left: heard.left, rate: heard.rate });
  }
}

export const measuring = new Measuring();

/** Is shown what is heard and measured, as long as the component is there. */
export function useMeasures(show: (look: Look) => void): void {
  const latest = useRef(show);
  latest.current = show;
  useEffect(() => measuring.show((look) => latest.current(look)), []);
}
