/** Room above and below a wave in its zone: for its label and the marks of its repeats. */
const ABOVE = 18;
const BELOW = 12;

/** A sample's small wave in a zone: one outline, so that hundreds are painted in no time. Soft sounds are to be seen, too: by the square root, as meters do. */
export function paintWave(
  pen: CanvasRenderingContext2D,
  wave: Float32Array,
  box: { x: number; y: number; width: number; height: number },
  colour: string,
  alpha: number,
): void {
  const middle = box.y + ABOVE + (box.height - ABOVE - BELOW) / 2;
  const most = Math.min(60, (box.height - ABOVE - BELOW) / 2);
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
