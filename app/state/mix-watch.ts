import { createStore } from "zustand/vanilla";
import { decibelsOf } from "../../core/audio";
import type { Layer } from "../../core/instrument";

/** How loud each layer was at the most since something began to sound, by its id, as a factor; and what the limiter took off, in decibels (0 or less). */
export interface Mix {
  readonly peaks: Readonly<Record<string, number>>;
  readonly limited: number;
}

/** Below this everything counts as silent; after so much of it, what sounds next is another sound. */
const SILENT = 10 ** (-70 / 20);
const PAUSE = 700;
/** Milliseconds between two showings. */
const EVERY = 250;
/** Layers this far below the loudest are hardly heard. */
const FAINT = 24;
/** What the limiter takes off unnoticed. */
const UNNOTICED = -0.5;

/** Follows the peaks of the layers while they are looked at. */
export class MixWatch {
  readonly store = createStore<Mix>(() => ({ peaks: {}, limited: 0 }));
  private peaks: Record<string, number> = {};
  private limited = 0;
  private loudAt = Number.NEGATIVE_INFINITY;
  private shownAt = Number.NEGATIVE_INFINITY;

  /** Takes the peaks of all parts (by their addresses) since the last time; `now` in milliseconds. */
  take(parts: Readonly<Record<string, number>> | null, limiter: number, now: number): void {
    if (!parts) return;
    let loudest = 0;
    for (const [address, peak] of Object.entries(parts))
      if (address.startsWith("layers/") && !address.includes("/", 7)) loudest = Math.max(loudest, peak);
    if (loudest > SILENT) {
      if (now - this.loudAt > PAUSE) {
        this.peaks = {};
        this.limited = 0;
      }
      this.loudAt = now;
      for (const [address, peak] of Object.entries(parts)) {
        const layer = /^layers\/([^/]+)$/.exec(address)?.[1];
        if (layer !== undefined) this.peaks[layer] = Math.max(this.peaks[layer] ?? 0, peak);
      }
      this.limited = Math.min(this.limited, limiter);
    }
    if (now - this.shownAt < EVERY) return;
    this.shownAt = now;
    const before = this.store.getState();
    const same =
      before.limited === this.limited &&
      Object.keys(this.peaks).length === Object.keys(before.peaks).length &&
      Object.entries(this.peaks).every(([id, peak]) => before.peaks[id] === peak);
    if (!same) this.store.setState({ peaks: { ...this.peaks }, limited: this.limited });
  }
}

/** What is to be said about how layers stand to each other: which nobody will hear, and what the limiter caught. */
export function aboutMix({ peaks, limited }: Mix, layers: readonly Pick<Layer, "id" | "name" | "strip">[]): string[] {
  const heard = layers.filter((l) => Number(l.strip.params.mute ?? 0) < 0.5 && peaks[l.id] !== undefined);
  const levels = heard.map((l) => ({ name: l.name, level: decibelsOf(peaks[l.id] as number) }));
  const loudest = levels.reduce<(typeof levels)[number] | null>((a, b) => (a && a.level >= b.level ? a : b), null);
  const said: string[] = [];
  for (const { name, level } of levels) {
    if (!loudest || name === loudest.name) continue;
    const below = loudest.level - level;
    if (level < -90) said.push(`${name} is silent on these keys.`);
    else if (below > FAINT)
      said.push(`${name} is ${Math.round(below)} dB below ${loudest.name}: hardly anybody will hear it.`);
  }
  if (limited < UNNOTICED)
    said.push(`The limiter caught ${Math.abs(limited).toFixed(1)} dB: turn something down if it isn’t meant.`);
  return said;
}
