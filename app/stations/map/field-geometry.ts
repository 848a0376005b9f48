import type { Zone } from "../../../core/instrument";
import { type KeyAxis, keyX } from "../../state/key-axis";
import type { VelocityAxis } from "../../state/velocity-axis";

/** Zones of one place on the field: they differ only in their repeat. */
export interface Stack {
  readonly zones: readonly Zone[];
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Margins of the field above and below the zones, in pixels. */
export const FIELD_TOP = 26;
export const FIELD_BOTTOM = 10;

/** Height of a velocity's upper edge (0 to 127) on a field. */
export const velocityY = (velocity: number, { height, low, high }: VelocityAxis): number =>
  height - FIELD_BOTTOM - ((velocity - low) / (high - low)) * (height - FIELD_TOP - FIELD_BOTTOM);

/** The velocity at a height, within 1 to 127. */
export const velocityAt = (y: number, { height, low, high }: VelocityAxis): number =>
  Math.min(
    127,
    Math.max(1, Math.round(low + ((height - FIELD_BOTTOM - y) / (height - FIELD_TOP - FIELD_BOTTOM)) * (high - low))),
  );

/** A field that shows all velocities. */
export const allVelocities = (height: number): VelocityAxis => ({ height, low: 0, high: 127 });

/** Where each stack of zones lies on the field, in the order of the document. */
export function layStacks(zones: readonly Zone[], axis: KeyAxis, velocities: VelocityAxis): Stack[] {
  const stacks = new Map<number, Zone[]>();
  for (const zone of zones) {
    const key = ((zone.keyLow * 128 + zone.keyHigh) * 128 + zone.velLow) * 128 + zone.velHigh;
    const stack = stacks.get(key);
    if (stack) stack.push(zone);
    else stacks.set(key, [zone]);
  }
  return [...stacks.values()].map((members) => {
    const [zone] = members as [Zone];
    const x = keyX(axis, zone.keyLow);
    const y = velocityY(zone.velHigh, velocities);
    return {
      zones: members.sort((a, b) => a.repeat - b.repeat),
      x,
      y,
      width: keyX(axis, zone.keyHigh + 1) - x,
      height: velocityY(zone.velLow - 1, velocities) - y,
    };
  });
}

/** What lies under the pointer: a stack, and its body or one of its edges. */
export interface Hit {
  readonly stack: Stack;
  readonly part: "body" | "left" | "right" | "top" | "bottom";
}

const EDGE = 6;

/** The topmost stack at a place, and which part of it. Small stacks have narrower edges. */
export function hitField(stacks: readonly Stack[], x: number, y: number): Hit | null {
  for (let i = stacks.length - 1; i >= 0; i--) {
    const stack = stacks[i];
    if (!stack || x < stack.x || x >= stack.x + stack.width || y < stack.y || y >= stack.y + stack.height) continue;
    const edgeX = Math.min(EDGE, stack.width / 4);
    const edgeY = Math.min(EDGE, stack.height / 4);
    if (x < stack.x + edgeX) return { stack, part: "left" };
    if (x >= stack.x + stack.width - edgeX) return { stack, part: "right" };
    if (y < stack.y + edgeY) return { stack, part: "top" };
    if (y >= stack.y + stack.height - edgeY) return { stack, part: "bottom" };
    return { stack, part: "body" };
  }
  return null;
}

/** The stack that lies nearest in a direction from another; null where none does. */
export function stackBeside(stacks: readonly Stack[], from: Stack, across: number, up: number): Stack | null {
  let best: Stack | null = null;
  let least = Number.POSITIVE_INFINITY;
  for (const stack of stacks) {
    const dx = stack.x + stack.width / 2 - (from.x + from.width / 2);
    const dy = from.y + from.height / 2 - (stack.y + stack.height / 2);
    const along = dx * across + dy * up;
    if (along <= 0.5) continue;
    // What lies aside counts more than what lies farther on.
    const aside = Math.abs(dx * up) + Math.abs(dy * across);
    const far = along + 3 * aside;
    if (far < least) [best, least] = [stack, far];
  }
  return best;
}

/** Places where fades are taken hold of: on a line across for keys, on one upright for velocities. */
export const FADES = ["fadeLeft", "fadeRight", "fadeTop", "fadeBottom"] as const;
export type FadePart = (typeof FADES)[number];

/** Smaller stacks have no handles; with no fade they stand so far inside the edge. */
const HANDLED = 52;
const INSIDE = 11;
/** Half the size of what is taken hold of. */
const REACH = 7;

/** Where the handles of a stack's fades are; none where it is too small for them. */
export function fadeHandles(
  stack: Stack,
  axis: KeyAxis,
): { readonly part: FadePart; readonly x: number; readonly y: number }[] {
  const [zone] = stack.zones;
  if (!zone || stack.width < HANDLED || stack.height < HANDLED) return [];
  const key = axis.width / axis.count;
  const velocity = stack.height / (zone.velHigh - zone.velLow + 1);
  const within = (from: number, length: number, size: number) => from + Math.min(size, Math.max(INSIDE, length));
  const y = stack.y + stack.height * 0.62;
  const x = stack.x + stack.width * 0.62;
  const right = stack.x + stack.width;
  const bottom = stack.y + stack.height;
  return [
    { part: "fadeLeft", x: within(stack.x, zone.keyFadeLow * key, stack.width - INSIDE), y },
    { part: "fadeRight", x: 2 * right - within(right, zone.keyFadeHigh * key, stack.width - INSIDE), y },
    { part: "fadeTop", x, y: within(stack.y, zone.velFadeHigh * velocity, stack.height - INSIDE) },
    { part: "fadeBottom", x, y: 2 * bottom - within(bottom, zone.velFadeLow * velocity, stack.height - INSIDE) },
  ];
}

/** The fade handle at a place; null for none. */
export const hitFade = (stack: Stack, axis: KeyAxis, x: number, y: number): FadePart | null =>
  fadeHandles(stack, axis).find((h) => Math.abs(h.x - x) <= REACH && Math.abs(h.y - y) <= REACH)?.part ?? null;

/** A zone with a fade that ends at a key or velocity. */
export function withFade(zone: Zone, part: FadePart, key: number, velocity: number): Zone {
  const within = (x: number, most: number) => Math.min(most, Math.max(0, x));
  switch (part) {
    case "fadeLeft":
      return { ...zone, keyFadeLow: within(key - zone.keyLow, zone.keyHigh - zone.keyLow) };
    case "fadeRight":
      return { ...zone, keyFadeHigh: within(zone.keyHigh - key, zone.keyHigh - zone.keyLow) };
    case "fadeTop":
      return { ...zone, velFadeHigh: within(zone.velHigh - velocity, zone.velHigh - zone.velLow) };
    case "fadeBottom":
      return { ...zone, velFadeLow: within(velocity - zone.velLow, zone.velHigh - zone.velLow) };
  }
}

/** Two corners of a rectangle, in any order. */
export interface Box {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** The zones that a rectangle touches. */
export function zonesInBox(stacks: readonly Stack[], { x0, y0, x1, y1 }: Box): Set<string> {
  const [left, right] = [Math.min(x0, x1), Math.max(x0, x1)];
  const [top, bottom] = [Math.min(y0, y1), Math.max(y0, y1)];
  const touched = stacks.filter((s) => s.x < right && s.x + s.width > left && s.y < bottom && s.y + s.height > top);
  return new Set(touched.flatMap((s) => s.zones.map((z) => z.id)));
}

/** Width of the strip at the right in which velocities are named. */
export const VELOCITY_STRIP = 30;

/** Where something is pressed: on the keys' names, on the velocities', or on the field itself. */
export const regionAt = (x: number, y: number, width: number): "keys" | "velocities" | "field" =>
  y < FIELD_TOP - 4 ? "keys" : x > width - VELOCITY_STRIP ? "velocities" : "field";
