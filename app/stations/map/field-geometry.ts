import type { Zone } from "../../../core/instrument";
import { type KeyAxis, keyX } from "../../state/key-axis";

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
export const velocityY = (velocity: number, height: number): number =>
  height - FIELD_BOTTOM - (velocity / 127) * (height - FIELD_TOP - FIELD_BOTTOM);

/** The velocity at a height, within 1 to 127. */
export const velocityAt = (y: number, height: number): number =>
  Math.min(127, Math.max(1, Math.round(((height - FIELD_BOTTOM - y) / (height - FIELD_TOP - FIELD_BOTTOM)) * 127)));

/** Where each stack of zones lies on the field, in the order of the document. */
export function layStacks(zones: readonly Zone[], axis: KeyAxis, height: number): Stack[] {
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
    const y = velocityY(zone.velHigh, height);
    return {
      zones: members.sort((a, b) => a.repeat - b.repeat),
      x,
      y,
      width: keyX(axis, zone.keyHigh + 1) - x,
      height: velocityY(zone.velLow - 1, height) - y,
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

/** A zone after its stack was dragged by so many keys, or one of its edges to a key or velocity. */
export function dragZone(zone: Zone, part: Hit["part"], keys: number, velocity: number): Zone {
  switch (part) {
    case "body": {
      const by = Math.max(-zone.keyLow, Math.min(127 - zone.keyHigh, keys));
      return { ...zone, keyLow: zone.keyLow + by, keyHigh: zone.keyHigh + by };
    }
    case "left":
      return { ...zone, keyLow: Math.min(zone.keyHigh, Math.max(0, zone.keyLow + keys)) };
    case "right":
      return { ...zone, keyHigh: Math.max(zone.keyLow, Math.min(127, zone.keyHigh + keys)) };
    case "top":
      return { ...zone, velHigh: Math.max(zone.velLow, velocity) };
    case "bottom":
      return { ...zone, velLow: Math.min(zone.velHigh, velocity) };
  }
}
