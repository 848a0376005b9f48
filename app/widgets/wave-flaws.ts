import type { Colours } from "./Drawing";
import type { WaveScale } from "./wave-scale";

/** What is wrong with a recording, in frames: where the input was at full scale, and where sound was lost. */
interface Flaws {
  readonly clips: readonly number[];
  readonly gaps: readonly number[];
}

/** Marks clipping by a bar at the upper edge, and lost sound by a dashed line from top to bottom. */
export function paintFlaws(pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours, flaws: Flaws): void {
  pen.fillStyle = colours.vermilion;
  for (const clip of flaws.clips) {
    const x = scale.x(clip);
    if (x >= 0 && x <= scale.width) pen.fillRect(x - 1, 0, 3, 9);
  }
  for (const gap of flaws.gaps) {
    const x = Math.round(scale.x(gap));
    if (x < 0 || x > scale.width) continue;
    for (let y = 0; y < scale.height; y += 8) pen.fillRect(x, y, 2, 5);
  }
}
