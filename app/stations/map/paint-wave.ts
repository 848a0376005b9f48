/** Room above and below a wave in its zone: for its label and the marks of its repeats. */
const ABOVE = 18;
const BELOW = 12;

interface WaveBox {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** The middle line of a wave in its zone, and how far it reaches from there at the most. */
const spanOf = ({ y, height }: WaveBox): { middle: number; most: number } => ({
  middle: y + ABOVE + (height - ABOVE - BELOW) / 2,
  most: Math.min(60, (height - ABOVE - BELOW) / 2),
});

/** The part of a wave that goes round, from and to as shares of its length: hatched below it. */
export function paintLoop(pen: CanvasRenderingContext2D, from: number, to: number, box: WaveBox, colour: string): void {
  const { middle, most } = spanOf(box);
  const at = (share: number): number => box.x + 4 + (box.width - 8) * Math.min(1, share);
  const [left, right] = [at(from), at(to)];
  const y = Math.min(middle + most * 0.7 + 4, box.y + box.height - 28);
  pen.strokeStyle = colour;
  pen.beginPath();
  for (let x = left; x < right; x += 4) {
    pen.moveTo(x, y + 4);
    pen.lineTo(Math.min(right, x + 4), y);
  }
  pen.moveTo(left, y + 5);
  pen.lineTo(right, y + 5);
  pen.stroke();
}

/** A sample's small wave in a zone: one outline, so that hundreds are painted in no time. Soft sounds are to be seen, too: by the square root, as meters do. */
export function paintWave(
  pen: CanvasRenderingContext2D,
  wave: Float32Array,
  box: WaveBox,
  colour: string,
  alpha: number,
): void {
  const { middle, most } = spanOf(box);
  const left = box.x + 4;
  const step = (box.width - 8) / wave.length;
  const half = (c: number): number => Math.max(0.5, Math.sqrt(wave[c] as number) * most);
  pen.beginPath();
  pen.moveTo(left, middle - half(0));
  for (let c = 0; c < wave.length; c++) pen.lineTo(left + (c + 0.5) * step, middle - half(c));
  for (let c = wave.length - 1; c >= 0; c--) pen.lineTo(left + (c + 0.5) * step, middle + half(c));
  pen.lineTo(left, middle + half(0));
  pen.fillStyle = colour;
  pen.globalAlpha = alpha;
  pen.fill();
  pen.globalAlpha = 1;
}
