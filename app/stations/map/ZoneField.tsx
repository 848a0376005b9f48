import { type PointerEvent, useCallback, useMemo, useRef, useState } from "react";
import { useStore } from "zustand";
import { nameOfNote } from "../../../core/audio";
import { changeZones, type Zone } from "../../../core/instrument";
import { engine } from "../../audio/engine";
import { newGesture } from "../../state/gesture";
import { isBlack, keyAt, keyX } from "../../state/key-axis";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { type Colours, type Draw, Drawing } from "../../widgets/Drawing";
import { useSize } from "../../widgets/use-size";
import {
  dragZone,
  FIELD_BOTTOM,
  FIELD_TOP,
  type Hit,
  hitField,
  layStacks,
  type Stack,
  velocityAt,
  velocityY,
} from "./field-geometry";

interface Drag {
  readonly hit: Hit;
  readonly ids: ReadonlySet<string>;
  readonly before: ReadonlyMap<string, Zone>;
  readonly key: number;
  readonly gesture: string;
  readonly x: number;
  readonly y: number;
  moved: boolean;
}

const CURSORS = { body: "grab", left: "ew-resize", right: "ew-resize", top: "ns-resize", bottom: "ns-resize" } as const;

/** The key × velocity field: its columns are the keybed's keys. Click selects and sounds, drag moves, edges resize. */
export function ZoneField({ zones }: { zones: readonly Zone[] }) {
  const { keyLow, keyCount, zoneIds } = useView();
  const { samples } = useInstrument();
  const held = useStore(engine.store, (s) => s.held);
  const trace = useStore(engine.store, (s) => s.trace);
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const [cursor, setCursor] = useState("default");
  const drag = useRef<Drag | null>(null);
  const axis = useMemo(() => ({ low: keyLow, count: keyCount, width }), [keyLow, keyCount, width]);
  const stacks = useMemo(() => layStacks(zones, axis, height), [zones, axis, height]);
  const names = useMemo(() => new Map(samples.map((s) => [s.sha, s.name])), [samples]);
  const played = useMemo(() => {
    if (!trace || held.size === 0) return new Set<string>();
    return new Set(trace.at.filter((z) => z.reason === 0).map((z) => zones[z.zone]?.id ?? ""));
  }, [trace, held, zones]);

  const draw = useCallback<Draw>(
    (pen, w, h, colours) => {
      paintGround(pen, w, h, axis, colours);
      for (const stack of stacks) paintStack(pen, stack, { selected: zoneIds, played, names, axis }, colours);
    },
    [axis, stacks, zoneIds, played, names],
  );

  const place = (event: PointerEvent) => {
    const bounds = event.currentTarget.getBoundingClientRect();
    return { x: event.clientX - bounds.left, y: event.clientY - bounds.top };
  };
  const down = (event: PointerEvent) => {
    const { x, y } = place(event);
    const hit = hitField(stacks, x, y);
    if (!hit) {
      setView({ zoneIds: new Set() });
      return;
    }
    event.currentTarget.setPointerCapture(event.pointerId);
    const more = event.shiftKey || event.ctrlKey || event.metaKey;
    const own = hit.stack.zones.map((z) => z.id);
    const known = own.some((id) => zoneIds.has(id));
    const ids = more ? new Set([...zoneIds, ...own]) : known && zoneIds.size > 1 ? zoneIds : new Set(own);
    if (more || !known || zoneIds.size === 1) setView({ zoneIds: ids });
    drag.current = {
      hit,
      ids,
      before: new Map(zones.filter((z) => ids.has(z.id)).map((z) => [z.id, z])),
      key: keyAt(axis, x),
      gesture: newGesture(),
      x,
      y,
      moved: false,
    };
  };
  const move = (event: PointerEvent) => {
    const { x, y } = place(event);
    const from = drag.current;
    if (!from) {
      const hit = hitField(stacks, x, y);
      setCursor(hit ? CURSORS[hit.part] : "default");
      return;
    }
    if (!from.moved && Math.hypot(x - from.x, y - from.y) < 4) return;
    from.moved = true;
    const keys = keyAt(axis, x) - from.key;
    const velocity = velocityAt(y, height);
    session.commit(
      changeZones(from.ids, from.hit.part === "body" ? "Move keys" : "Set range", (zone) =>
        dragZone(from.before.get(zone.id) ?? zone, from.hit.part, keys, velocity),
      ),
      from.gesture,
    );
  };
  const up = () => {
    const from = drag.current;
    drag.current = null;
    if (!from || from.moved) return;
    // A click sounds the zone, at a velocity and key of its own.
    const [zone] = from.hit.stack.zones;
    if (!zone) return;
    const velocity = velocityAt(from.y, height);
    engine.noteOn(from.key, velocity);
    setTimeout(() => engine.noteOff(from.key), 350);
  };
  return (
    <div ref={box} className="relative min-h-0 flex-1">
      <Drawing
        draw={draw}
        label={`${zones.length} zones by key and velocity`}
        data-testid="zone-field"
        className="h-full w-full touch-none"
        style={{ cursor }}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={() => {
          drag.current = null;
        }}
      />
    </div>
  );
}

function paintGround(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  axis: { low: number; count: number; width: number },
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
  for (const velocity of [32, 64, 96, 127]) {
    const y = Math.round(velocityY(velocity, height)) + 0.5;
    pen.beginPath();
    pen.moveTo(0, y);
    pen.lineTo(width, y);
    pen.stroke();
    pen.fillStyle = colours["ink-faint"];
    pen.textAlign = "right";
    pen.fillText(String(velocity), width - 5, velocity === 127 ? y + 12 : y - 4);
    pen.textAlign = "left";
  }
  pen.setLineDash([]);
}

interface StackLook {
  readonly selected: ReadonlySet<string>;
  readonly played: ReadonlySet<string>;
  readonly names: ReadonlyMap<string, string>;
  readonly axis: { low: number; count: number; width: number };
}

function paintStack(pen: CanvasRenderingContext2D, stack: Stack, look: StackLook, colours: Colours): void {
  const x = stack.x + 1.5;
  const y = stack.y + 1.5;
  const width = stack.width - 3;
  const height = stack.height - 3;
  if (x + width < 0 || x > look.axis.width || width <= 0 || height <= 0) return;
  const selected = stack.zones.some((z) => look.selected.has(z.id));
  const sounding = stack.zones.some((z) => look.played.has(z.id));
  pen.fillStyle = selected ? colours["tint-cobalt"] : sounding ? colours["tint-leaf"] : colours.sheet;
  pen.strokeStyle = selected ? colours.cobalt : sounding ? colours.leaf : colours.ink;
  pen.lineWidth = selected || sounding ? 2.4 : 1.2;
  pen.fillRect(x, y, width, height);
  pen.strokeRect(x, y, width, height);
  pen.lineWidth = 1;
  const [first] = stack.zones;
  if (!first) return;
  pen.save();
  pen.beginPath();
  pen.rect(x, y, width, height);
  pen.clip();
  pen.font = '11px "Spline Sans Mono Variable", monospace';
  pen.fillStyle = colours.ink;
  const root = nameOfNote(first.root);
  if (height > 34) {
    // A zone that begins beyond the left edge keeps its label in sight.
    const left = Math.max(x, 0) + 5;
    if (pen.measureText(root).width + 8 < width) {
      pen.fillText(root, left, y + 15);
      const range = `${first.velLow}–${first.velHigh}`;
      pen.fillStyle = colours["ink-soft"];
      if (pen.measureText(range).width + 8 < width && height > 52) pen.fillText(range, left, y + 30);
    } else {
      pen.translate(x + width / 2 + 4, y + 6 + pen.measureText(root).width);
      pen.rotate(-Math.PI / 2);
      pen.fillText(root, 0, 0);
      pen.setTransform(devicePixelRatio || 1, 0, 0, devicePixelRatio || 1, 0, 0);
    }
  }
  const step = Math.min(9, (width - 4) / stack.zones.length);
  stack.zones.forEach((zone, i) => {
    const mark = look.played.has(zone.id)
      ? colours.leaf
      : look.selected.has(zone.id) && look.selected.size < stack.zones.length
        ? colours.cobalt
        : colours.ink;
    pen.fillStyle = mark;
    if (step > 2) pen.fillRect(Math.max(x, 0) + 4 + i * step, y + height - 20, Math.max(1.5, step - 3), 8);
  });
  pen.restore();
  const rootX = keyX(look.axis, first.root + 0.5);
  if (rootX >= x && rootX <= x + width) {
    pen.fillStyle = selected ? colours.cobalt : colours.ink;
    pen.beginPath();
    pen.moveTo(rootX - 5, y + height);
    pen.lineTo(rootX, y + height - 8);
    pen.lineTo(rootX + 5, y + height);
    pen.fill();
  }
}
