import { nameOfNote } from "../../../core/audio";
import type { Mark, Zone } from "../../../core/instrument";
import { isBlack, keyX } from "../../state/key-axis";
import type { VelocityAxis } from "../../state/velocity-axis";
import type { Colours } from "../../widgets/Drawing";
import { FIELD_BOTTOM, FIELD_TOP, fadeHandles, type Stack, velocityY } from "./field-geometry";
import { paintLoop, paintWave } from "./paint-wave";

interface Axis {
  readonly low: number;
  readonly count: number;
  readonly width: number;
}

/** The field without its zones: octaves, black keys, velocities. */
export function paintGround(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  axis: { low: number; count: number; width: number },
  velocities: VelocityAxis,
  colours: Colours,
): void {
  pen.font = '10.5px "Spline Sans Mono Variable", monospace';
  const top = FIELD_TOP;
  const bottom = height - FIELD_BOTTOM;
  for (let key = axis.low; key < axis.low + axis.count; key++) {
    const x = keyX(axis, key);
    if (isBlack(key)) {
      pen.fillStyle = colours.ground;
      pen.globalAlpha = 0.55;
      pen.fillRect(x, top, keyX(axis, key + 1) - x, bottom - top);
      pen.globalAlpha = 1;
    }
    if (key % 12 !== 0) continue;
    pen.fillStyle = colours["rule-strong"];
    pen.fillRect(Math.round(x), 8, 1, bottom - 8);
    pen.fillStyle = colours["ink-soft"];
    const text = `${nameOfNote(key)} · ${key}`;
    if (x + 4 + pen.measureText(text).width < width) pen.fillText(text, x + 4, 18);
  }
  pen.strokeStyle = colours.rule;
  pen.setLineDash([1, 4]);
  for (const velocity of marksOf(velocities)) {
    const y = Math.round(velocityY(velocity, velocities)) + 0.5;
    pen.beginPath();
    pen.moveTo(0, y);
    pen.lineTo(width, y);
    pen.stroke();
    pen.fillStyle = colours["ink-faint"];
    pen.textAlign = "right";
    pen.fillText(String(velocity), width - 5, velocity === velocities.high ? y + 12 : y - 4);
    pen.textAlign = "left";
  }
  pen.setLineDash([]);
}

/** Velocities that are named on a field: more of them the closer one looks. */
function marksOf({ low, high }: VelocityAxis): number[] {
  const step = [32, 16, 8, 4, 2, 1].find((s) => (high - low) / s >= 3.5) ?? 1;
  const marks = Array.from({ length: Math.floor(127 / step) + 1 }, (_, i) => i * step).filter(
    (v) => v > low && v <= high,
  );
  return high >= 127 && marks.at(-1) !== 127 ? [...marks, 127] : marks;
}

/** Zones that stand out by their id, and where the keys are. */
interface StackLook {
  readonly selected: ReadonlySet<string>;
  readonly played: ReadonlySet<string>;
  readonly axis: Axis;
  /** Of the field, in pixels. */
  readonly height: number;
  /** What a zone is marked with beside its root: when it sounds, its microphone; empty for nothing. */
  readonly markOf?: (zone: Zone) => string;
  /** The colour of its group, which stands at its left edge. */
  readonly colourOf?: (zone: Zone) => Mark;
  /** The small waves of samples, by their content; none: zones are plain. */
  readonly waves?: ReadonlyMap<string, Float32Array>;
}

/** Zones that are lower or narrower than that show no wave. */
const WAVED = { height: 52, width: 22 } as const;

/** Lower than that a zone has no label, lower still no marks for its repeats. */
const LABELLED = 34;
const MARKED = 24;

/** All zones. There may be thousands: what is the same for all is set once, and small ones are plain rectangles. */
export function paintStacks(
  pen: CanvasRenderingContext2D,
  stacks: readonly Stack[],
  look: StackLook,
  colours: Colours,
): void {
  pen.font = '11px "Spline Sans Mono Variable", monospace';
  // All characters of this face are equally wide.
  const character = pen.measureText("0").width;
  pen.save();
  // Of what is looked at closely nothing covers the names of the keys.
  pen.beginPath();
  pen.rect(0, FIELD_TOP - 1, look.axis.width, look.height - FIELD_TOP - FIELD_BOTTOM + 3);
  pen.clip();
  for (const stack of stacks) paintStack(pen, stack, look, colours, character);
  // Where zones fade into one another both sides are seen.
  for (const stack of stacks) paintFades(pen, stack, look.axis, colours);
  pen.restore();
}

function paintStack(
  pen: CanvasRenderingContext2D,
  stack: Stack,
  look: StackLook,
  colours: Colours,
  character: number,
): void {
  const x = stack.x + 1.5;
  const y = stack.y + 1.5;
  const width = stack.width - 3;
  const height = stack.height - 3;
  const [first] = stack.zones;
  if (!first || x + width < 0 || x > look.axis.width || width <= 0 || height <= 0) return;
  const selected = stack.zones.some((z) => look.selected.has(z.id));
  const sounding = stack.zones.some((z) => look.played.has(z.id));
  const line = selected ? colours.cobalt : sounding ? colours.leaf : colours.ink;
  const half = selected || sounding ? 1.2 : 0.6;
  pen.fillStyle = line;
  pen.fillRect(x - half, y - half, width + 2 * half, height + 2 * half);
  pen.fillStyle = selected ? colours["tint-cobalt"] : sounding ? colours["tint-leaf"] : colours.sheet;
  pen.fillRect(x + half, y + half, width - 2 * half, height - 2 * half);
  const mark = look.colourOf?.(first) ?? "none";
  if (mark !== "none" && width > 6) {
    pen.fillStyle = colours[`mark-${mark}`];
    pen.fillRect(x + half, y + half, Math.min(3, width / 3), height - 2 * half);
  }
  const wave = height > WAVED.height && width > WAVED.width ? look.waves?.get(first.sample ?? "") : undefined;
  if (wave) {
    const { loop, end } = first;
    if (loop && end > 0) paintLoop(pen, loop.start / end, loop.end / end, { x, y, width, height }, colours.ink);
    paintWave(pen, wave, { x, y, width, height }, colours.ink, 0.32);
  }
  if (height > LABELLED) {
    paintLabel(pen, stack, character, colours);
    const said = look.markOf?.(first) ?? "";
    // Beside the root where there is room, below the range else.
    const room = (nameOfNote(first.root).length + said.length + 2) * character + 10;
    if (said !== "" && room < width) {
      pen.fillStyle = colours.plum;
      pen.fillText(said, x + width - said.length * character - 5, Math.max(y, FIELD_TOP - 2) + 15);
    }
  }
  const step = Math.min(9, (width - 4) / stack.zones.length);
  if (height > MARKED && step > 2) {
    stack.zones.forEach((zone, i) => {
      pen.fillStyle = look.played.has(zone.id)
        ? colours.leaf
        : look.selected.has(zone.id) && look.selected.size < stack.zones.length
          ? colours.cobalt
          : colours.ink;
      pen.fillRect(Math.max(x, 0) + 4 + i * step, y + height - 20, Math.max(1.5, step - 3), 8);
    });
  }
  const rootX = keyX(look.axis, first.root + 0.5);
  if (rootX < x || rootX > x + width) return;
  const size = Math.min(8, height / 2, width * 0.7);
  pen.fillStyle = selected ? colours.cobalt : colours.ink;
  pen.beginPath();
  pen.moveTo(rootX - size * 0.6, y + height);
  pen.lineTo(rootX, y + height - size);
  pen.lineTo(rootX + size * 0.6, y + height);
  pen.fill();
}

/** Fades as slanted lines from the edge to where they are full. */
function paintFades(pen: CanvasRenderingContext2D, stack: Stack, axis: Axis, colours: Colours): void {
  const [zone] = stack.zones;
  if (!zone || stack.width < 6 || stack.height < 6) return;
  const { keyFadeLow, keyFadeHigh, velFadeLow, velFadeHigh } = zone;
  if (keyFadeLow + keyFadeHigh + velFadeLow + velFadeHigh === 0) return;
  const key = axis.width / axis.count;
  const velocity = stack.height / (zone.velHigh - zone.velLow + 1);
  const [left, right, top, bottom] = [stack.x + 2, stack.x + stack.width - 2, stack.y + 2, stack.y + stack.height - 2];
  pen.strokeStyle = colours["ink-soft"];
  pen.beginPath();
  const line = (x0: number, y0: number, x1: number, y1: number): void => {
    pen.moveTo(x0, y0);
    pen.lineTo(x1, y1);
  };
  if (keyFadeLow > 0) line(left, bottom, left + keyFadeLow * key, top);
  if (keyFadeHigh > 0) line(right, bottom, right - keyFadeHigh * key, top);
  if (velFadeHigh > 0) line(left, top, right, top + velFadeHigh * velocity);
  if (velFadeLow > 0) line(left, bottom, right, bottom - velFadeLow * velocity);
  pen.stroke();
}

/** Where zones would be, dashed. */
export function paintSpread(pen: CanvasRenderingContext2D, stacks: readonly Stack[], colours: Colours): void {
  pen.save();
  pen.setLineDash([5, 3]);
  pen.lineWidth = 1.6;
  pen.strokeStyle = colours.vermilion;
  for (const { x, y, width, height } of stacks) pen.strokeRect(x + 2, y + 2, width - 4, height - 4);
  pen.restore();
}

/** Handles of the fades of one stack: small squares on short lines from its edges. */
export function paintHandles(pen: CanvasRenderingContext2D, stack: Stack, axis: Axis, colours: Colours): void {
  for (const { x, y } of fadeHandles(stack, axis)) {
    pen.fillStyle = colours.sheet;
    pen.strokeStyle = colours.cobalt;
    pen.fillRect(x - 3.5, y - 3.5, 7, 7);
    pen.strokeRect(x - 3.5, y - 3.5, 7, 7);
  }
}

/** Root and range of velocities where there is room for them, upright where there is only room for that. */
function paintLabel(pen: CanvasRenderingContext2D, stack: Stack, character: number, colours: Colours): void {
  const [first] = stack.zones;
  if (!first) return;
  const root = nameOfNote(first.root);
  // Below where the next layer fades in over it.
  const fade = (first.velFadeHigh * stack.height) / (first.velHigh - first.velLow + 1);
  const begin = stack.y + (fade < stack.height - LABELLED ? fade : 0);
  // A zone that begins above the field keeps its label in sight.
  const top = Math.max(begin, Math.min(FIELD_TOP - 2, stack.y + stack.height - LABELLED));
  const across = root.length * character;
  pen.fillStyle = colours.ink;
  if (across + 11 < stack.width) {
    // A zone that begins beyond the left edge keeps its label in sight.
    const left = Math.max(stack.x + 1.5, 0) + 5;
    pen.fillText(root, left, top + 16.5);
    const range = `${first.velLow}–${first.velHigh}`;
    pen.fillStyle = colours["ink-soft"];
    if (range.length * character + 11 < stack.width && stack.height > 55) pen.fillText(range, left, top + 31.5);
  } else if (across + 34 < stack.height && stack.width > 10) {
    const dots = devicePixelRatio || 1;
    pen.translate(stack.x + stack.width / 2 + 4, stack.y + 7.5 + across);
    pen.rotate(-Math.PI / 2);
    pen.fillText(root, 0, 0);
    pen.setTransform(dots, 0, 0, dots, 0, 0);
  }
}
