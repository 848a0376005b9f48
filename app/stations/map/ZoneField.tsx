import { type PointerEvent, useCallback, useMemo, useRef, useState } from "react";
import { useStore } from "zustand";
import { changeZones, listZones, type Zone } from "../../../core/instrument";
import { engine } from "../../audio/engine";
import { newGesture } from "../../state/gesture";
import { keyAt } from "../../state/key-axis";
import { partZones } from "../../state/selected-zones";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { type Draw, Drawing } from "../../widgets/Drawing";
import { useSize } from "../../widgets/use-size";
import { dragZone, type Hit, hitField, layStacks, velocityAt } from "./field-geometry";
import { paintGround, paintStacks } from "./paint-zones";

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

/** What a function gives, computed when it is first asked for. */
function once<T>(compute: () => T): () => T {
  let known: { readonly value: T } | null = null;
  return () => {
    known ??= { value: compute() };
    return known.value;
  };
}

const NONE: ReadonlySet<string> = new Set();

/** The key × velocity field: its columns are the keybed's keys. Click selects and sounds, drag moves, edges resize. */
export function ZoneField() {
  const zones = useInstrument(listZones);
  const { keyLow, keyCount, zoneIds } = useView();
  const held = useStore(engine.store, (s) => s.held);
  const trace = useStore(engine.store, (s) => s.trace);
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const [cursor, setCursor] = useState("default");
  const drag = useRef<Drag | null>(null);
  const axis = useMemo(() => ({ low: keyLow, count: keyCount, width }), [keyLow, keyCount, width]);
  // All stacks together are only needed for what lies under the pointer.
  const stacks = useMemo(() => once(() => layStacks(zones, axis, height)), [zones, axis, height]);
  // What is selected lies over the rest: while it is dragged the rest stays as it was painted.
  const { chosen, rest } = partZones(zones, zoneIds);
  const restStacks = useMemo(() => layStacks(rest, axis, height), [rest, axis, height]);
  const chosenStacks = useMemo(() => layStacks(chosen, axis, height), [chosen, axis, height]);
  const played = useMemo(() => {
    if (!trace || held.size === 0) return NONE;
    return new Set(trace.at.filter((z) => z.reason === 0).map((z) => zones[z.zone]?.id ?? ""));
  }, [trace, held, zones]);

  const draw = useCallback<Draw>(
    (pen, w, h, colours) => {
      paintGround(pen, w, h, axis, colours);
      paintStacks(pen, restStacks, { selected: NONE, played, axis }, colours);
    },
    [axis, restStacks, played],
  );
  const drawChosen = useCallback<Draw>(
    (pen, _w, _h, colours) => paintStacks(pen, chosenStacks, { selected: zoneIds, played, axis }, colours),
    [axis, chosenStacks, zoneIds, played],
  );

  const place = (event: PointerEvent) => {
    const bounds = event.currentTarget.getBoundingClientRect();
    return { x: event.clientX - bounds.left, y: event.clientY - bounds.top };
  };
  const down = (event: PointerEvent) => {
    const { x, y } = place(event);
    const hit = hitField(stacks(), x, y);
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
      const hit = hitField(stacks(), x, y);
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
      >
        <Drawing
          draw={drawChosen}
          label={`${chosen.length} selected`}
          className="pointer-events-none !absolute inset-0"
        />
      </Drawing>
    </div>
  );
}
