/** Turns frames into places on the screen and back. */
export interface WaveScale {
  readonly x: (frame: number) => number;
  readonly frame: (x: number) => number;
  /** How many frames the whole sound has. */
  readonly frames: number;
  readonly width: number;
  readonly height: number;
}
