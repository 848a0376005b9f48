import type { FacePicture, PictureLayer } from "../instrument";

/** How a picture lies on its item: what of it is seen, and how it is turned, moved or cut, for a place on the travel. */
export interface DrawnLayer {
  /** Its size against the item's, and by how much of the item's size it is moved. */
  readonly width: number;
  readonly height: number;
  readonly x: number;
  readonly y: number;
  /** In degrees, clockwise. */
  readonly turn: number;
  /** The share of it, from below, that is seen. */
  readonly seen: number;
}

/** How far something that turns goes to each side, in degrees; a dial's way. */
const SWEEP = 135;

const WHOLE: DrawnLayer = { width: 1, height: 1, x: 0, y: 0, turn: 0, seen: 1 };

/** Which of the frames of a picture is seen at a place of the travel, or at a moment (seconds). */
export function frameAt({ does, frames, rate }: PictureLayer, travel: number, seconds: number): number {
  if (does === "plays") return Math.floor(Math.max(0, seconds) * rate) % frames;
  return Math.round(Math.min(1, Math.max(0, travel)) * (frames - 1));
}

/** How a picture is drawn. Frames stand below each other, or beside each other in a picture that is wider than tall. */
export function drawnLayer(
  layer: PictureLayer,
  { width, height }: Pick<FacePicture, "width" | "height">,
  travel: number,
  seconds = 0,
): DrawnLayer {
  const at = Math.min(1, Math.max(0, travel));
  switch (layer.does) {
    case "stays":
      return WHOLE;
    case "turns":
      return { ...WHOLE, turn: (2 * at - 1) * SWEEP };
    case "slides":
      return { ...WHOLE, x: at };
    case "rises":
      return { ...WHOLE, y: 1 - at };
    case "fills":
      return { ...WHOLE, seen: at };
    case "frames":
    case "plays": {
      const frame = frameAt(layer, at, seconds);
      return width > height
        ? { ...WHOLE, width: layer.frames, x: -frame }
        : { ...WHOLE, height: layer.frames, y: -frame };
    }
  }
}

/** How many frames a picture likely has: as many squares as its longer side holds; 1 where that isn't even, or where they would be fewer than the `least` of a strip. */
export function guessedFrames({ width, height }: Pick<FacePicture, "width" | "height">, least = 2): number {
  const [long, short] = [Math.max(width, height), Math.min(width, height)];
  const count = long / short;
  return Number.isInteger(count) && count >= least && count <= 512 ? count : 1;
}

/** Whether frames of a picture have whole pixels: an odd size blurs or drifts. */
export const framesFit = ({ width, height }: Pick<FacePicture, "width" | "height">, frames: number): boolean =>
  frames >= 1 && Number.isInteger(Math.max(width, height) / frames);
