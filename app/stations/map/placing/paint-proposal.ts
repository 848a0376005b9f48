import { nameOfNote } from "../../../../core/audio";
import { keyX } from "../../../state/key-axis";
import type { Colours } from "../../../widgets/Drawing";
import type { Stack } from "../field-geometry";
import { paintWave } from "../paint-wave";

interface ProposalLook {
  readonly axis: { readonly low: number; readonly count: number; readonly width: number };
  readonly played: ReadonlySet<string>;
  /** Zones of which something is doubted. */
  readonly doubtful: ReadonlySet<string>;
  /** The small waveforms of samples, by their content. */
  readonly waves: ReadonlyMap<string, Float32Array>;
}

/** Heights and widths from which a zone shows its wave, and its label. */
const WAVE = { height: 30, width: 18 } as const;
const LABEL = 34;

/** Zones that are yet to be placed: dashed, with their samples' waves where there is room. */
export function paintProposal(
  pen: CanvasRenderingContext2D,
  stacks: readonly Stack[],
  look: ProposalLook,
  colours: Colours,
): void {
  pen.font = '11px "Spline Sans Mono Variable", monospace';
  const character = pen.measureText("0").width;
  for (const stack of stacks) paintOne(pen, stack, look, colours, character);
  pen.setLineDash([]);
}

function paintOne(
  pen: CanvasRenderingContext2D,
  stack: Stack,
  { axis, played, doubtful, waves }: ProposalLook,
  colours: Colours,
  character: number,
): void {
  const [x, y, width, height] = [stack.x + 1.5, stack.y + 1.5, stack.width - 3, stack.height - 3];
  const [first] = stack.zones;
  if (!first || width <= 0 || height <= 0 || x + width < 0 || x > axis.width) return;
  const sounding = stack.zones.some((z) => played.has(z.id));
  const doubted = stack.zones.filter((z) => doubtful.has(z.id)).length;
  pen.fillStyle = sounding ? colours["tint-leaf"] : doubted > 0 ? colours["tint-ochre"] : colours.sheet;
  pen.fillRect(x, y, width, height);
  pen.strokeStyle = sounding ? colours.leaf : doubted > 0 ? colours.ochre : colours.ink;
  pen.lineWidth = sounding ? 2 : 1.2;
  pen.setLineDash([4, 3]);
  pen.strokeRect(x, y, width, height);
  pen.lineWidth = 1;
  const wave = waves.get(first.sample ?? "");
  if (wave && height > WAVE.height && width > WAVE.width)
    paintWave(pen, wave, { x, y, width, height }, colours.ink, 0.75);
  const root = nameOfNote(first.root);
  if (height > LABEL && root.length * character + 11 < width) {
    pen.fillStyle = colours.ink;
    pen.fillText(root, Math.max(x, 0) + 5, y + 14);
    const more = stack.zones.length > 1 ? `×${stack.zones.length}` : "";
    if ((root.length + more.length + 1) * character + 11 < width) {
      pen.fillStyle = colours["ink-soft"];
      pen.fillText(more, Math.max(x, 0) + 5 + (root.length + 1) * character, y + 14);
    }
  }
  // Never by colour alone.
  if (doubted > 0 && height > 20 && width > character + 4) {
    pen.fillStyle = colours.ochre;
    pen.fillText("?", x + width - character - 3, y + 14);
  }
  const rootX = keyX(axis, first.root + 0.5);
  if (rootX < x || rootX > x + width) return;
  const size = Math.min(8, height / 2);
  pen.fillStyle = colours.ink;
  pen.beginPath();
  pen.moveTo(rootX - size * 0.6, y + height);
  pen.lineTo(rootX, y + height - size);
  pen.lineTo(rootX + size * 0.6, y + height);
  pen.fill();
}
