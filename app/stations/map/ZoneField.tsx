import {
  type DragEvent,
  type KeyboardEvent,
  type MouseEvent,
  type PointerEvent,
  useCallback,
  useEffect,
  useMemo,
  useState,
} from "react";
import { useStore } from "zustand";
import { nameOfNote } from "../../../core/audio";
import { changeZones, listZones, type Zone } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { filesOfDrop } from "../../state/dropped-files";
import { engine } from "../../state/engine";
import { openDropped } from "../../state/importing";
import { keyAt, keyX, settleAxis } from "../../state/key-axis";
import { layFrom } from "../../state/laying";
import { partZones } from "../../state/selected-zones";
import { session } from "../../state/session";
import { useThumbnails, wantThumbnails } from "../../state/thumbnails";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { WithMenu } from "../../widgets/CommandMenu";
import { type Draw, Drawing } from "../../widgets/Drawing";
import { useDrag } from "../../widgets/use-drag";
import { useSize } from "../../widgets/use-size";
import { dragZone, type Hit, hitField, layStacks, stackBeside, velocityAt } from "./field-geometry";
import { ZONE_COMMANDS } from "./map-commands";
import { paintGround, paintStacks } from "./paint-zones";
import { DRAGGED_SAMPLES } from "./pool/Pool";

/** What a drag has taken hold of. */
interface Grip {
  readonly hit: Hit;
  readonly ids: ReadonlySet<string>;
  readonly before: ReadonlyMap<string, Zone>;
  readonly key: number;
  readonly y: number;
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
/** With more stacks than that waves give way to plain fill. */
const MOST_WAVES = 400;

/** The key × velocity field: its columns are the keybed's keys. Click selects and sounds, drag moves, edges resize. */
export function ZoneField() {
  const zones = useInstrument(listZones);
  const { keyLow, keyCount, zoneIds } = useView();
  const held = useStore(engine.store, (s) => s.held);
  const trace = useStore(engine.store, (s) => s.trace);
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const [cursor, setCursor] = useState("default");
  const [dropKey, setDropKey] = useState<number | null>(null);
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

  const all = useThumbnails((s) => s.of);
  // Of thousands only the plain fill can be seen anyway.
  const waves = restStacks.length + chosenStacks.length <= MOST_WAVES ? all : undefined;
  useEffect(() => {
    if (waves) void wantThumbnails([...restStacks, ...chosenStacks].flatMap((s) => s.zones[0]?.sample ?? []));
  }, [waves, restStacks, chosenStacks]);
  const draw = useCallback<Draw>(
    (pen, w, h, colours) => {
      paintGround(pen, w, h, axis, colours);
      paintStacks(pen, restStacks, { selected: NONE, played, axis, waves }, colours);
    },
    [axis, restStacks, played, waves],
  );
  const drawChosen = useCallback<Draw>(
    (pen, _w, _h, colours) => paintStacks(pen, chosenStacks, { selected: zoneIds, played, axis, waves }, colours),
    [axis, chosenStacks, zoneIds, played, waves],
  );

  const place = (event: PointerEvent) => {
    const bounds = event.currentTarget.getBoundingClientRect();
    return { x: event.clientX - bounds.left, y: event.clientY - bounds.top };
  };
  const drag = useDrag<Grip>({
    slack: 4,
    start: (event) => {
      const { x, y } = place(event);
      const hit = hitField(stacks(), x, y);
      if (!hit) {
        setView({ zoneIds: new Set() });
        return null;
      }
      const more = event.shiftKey || event.ctrlKey || event.metaKey;
      const own = hit.stack.zones.map((z) => z.id);
      const known = own.some((id) => zoneIds.has(id));
      const ids = more ? new Set([...zoneIds, ...own]) : known && zoneIds.size > 1 ? zoneIds : new Set(own);
      if (more || !known || zoneIds.size === 1) setView({ zoneIds: ids });
      const before = new Map(zones.filter((z) => ids.has(z.id)).map((z) => [z.id, z]));
      return { hit, ids, before, key: keyAt(axis, x), y };
    },
    move: ({ data, gesture }, event) => {
      const { x, y } = place(event);
      const keys = keyAt(axis, x) - data.key;
      const velocity = velocityAt(y, height);
      session.commit(
        changeZones(data.ids, data.hit.part === "body" ? "Move keys" : "Set range", (zone) =>
          dragZone(data.before.get(zone.id) ?? zone, data.hit.part, keys, velocity),
        ),
        gesture,
      );
    },
    // A click sounds the zone, at a velocity and key of its own.
    click: ({ data }) => {
      engine.noteOn(data.key, velocityAt(data.y, height));
      setTimeout(() => engine.noteOff(data.key), 350);
    },
  });
  /** Arrows go from zone to zone; with Shift they take along what they come by. */
  const keys = (event: KeyboardEvent) => {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (!step || event.altKey || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    event.stopPropagation();
    const from = stacks().find((s) => s.zones.some((z) => zoneIds.has(z.id)));
    const next = from ? stackBeside(stacks(), from, step[0] ?? 0, step[1] ?? 0) : stacks()[0];
    if (!next) return;
    const own = next.zones.map((z) => z.id);
    setView({ zoneIds: new Set(event.shiftKey ? [...own, ...zoneIds] : own) });
    // Into sight, with the keybed below it.
    const [zone] = next.zones;
    if (zone && (zone.keyLow < keyLow || zone.keyHigh >= keyLow + keyCount))
      setView(settleAxis(zone.keyLow - keyCount / 2, keyCount));
  };
  /** A menu opens on what lies under the pointer. */
  const menu = (event: MouseEvent) => {
    const bounds = event.currentTarget.getBoundingClientRect();
    const hit = hitField(stacks(), event.clientX - bounds.left, event.clientY - bounds.top);
    if (hit && !hit.stack.zones.some((z) => zoneIds.has(z.id)))
      setView({ zoneIds: new Set(hit.stack.zones.map((z) => z.id)) });
  };
  const hover = (event: PointerEvent<HTMLElement>) => {
    if (event.buttons !== 0) return;
    const { x, y } = place(event);
    const hit = hitField(stacks(), x, y);
    setCursor(hit ? CURSORS[hit.part] : "default");
  };
  /** Samples from the pool, or files, are laid on the keys from where they are dropped. */
  const takes = (event: DragEvent) =>
    event.dataTransfer.types.includes(DRAGGED_SAMPLES) || event.dataTransfer.types.includes("Files");
  const dragOver = (event: DragEvent) => {
    if (!takes(event)) return;
    event.preventDefault();
    event.dataTransfer.dropEffect = "copy";
    setDropKey(keyAt(axis, event.clientX - event.currentTarget.getBoundingClientRect().left));
  };
  const drop = (event: DragEvent) => {
    setDropKey(null);
    if (!takes(event)) return;
    event.preventDefault();
    const key = keyAt(axis, event.clientX - event.currentTarget.getBoundingClientRect().left);
    const step = event.shiftKey ? "white" : "all";
    const shas = event.dataTransfer.getData(DRAGGED_SAMPLES).split(" ");
    const samples = session.instrument?.samples.filter((s) => shas.includes(s.sha)) ?? [];
    if (samples.length > 0) layFrom(samples, key, step);
    else void filesOfDrop(event.dataTransfer).then((files) => openDropped(files, () => {}, { key, step }));
  };
  return (
    <div
      ref={box}
      className="relative min-h-0 flex-1"
      onDragOver={dragOver}
      onDragLeave={() => setDropKey(null)}
      onDrop={drop}
    >
      {dropKey !== null && (
        <div
          className="pointer-events-none absolute inset-y-0 z-10 border-cobalt border-l-2 bg-tint-cobalt opacity-70"
          style={{ left: keyX(axis, dropKey), width: Math.max(4, keyX(axis, dropKey + 1) - keyX(axis, dropKey)) }}
        >
          <span className="num absolute top-1 left-1 rounded-s bg-sheet px-1">{nameOfNote(dropKey)}</span>
        </div>
      )}
      <WithMenu commands={ZONE_COMMANDS}>
        <div className="h-full w-full">
          <Drawing
            draw={draw}
            label={`${plural(zones.length, "zone")} by key and velocity`}
            data-testid="zone-field"
            className="h-full w-full touch-none"
            style={{ cursor }}
            {...drag}
            role="application"
            tabIndex={0}
            aria-label="Zones by key and velocity: arrows go from one to the next, Enter sounds it, Alt with arrows moves it; List shows the same as a table"
            onKeyDown={keys}
            onContextMenu={menu}
            onPointerMove={(event) => {
              hover(event);
              drag.onPointerMove(event);
            }}
          >
            <Drawing
              draw={drawChosen}
              label={`${chosen.length} selected`}
              className="pointer-events-none !absolute inset-0"
            />
          </Drawing>
        </div>
      </WithMenu>
    </div>
  );
}
