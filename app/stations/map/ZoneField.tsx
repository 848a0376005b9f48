import { type KeyboardEvent, useCallback, useEffect, useMemo } from "react";
import { useStore } from "zustand";
import { nameOfNote } from "../../../core/audio";
import { listZones } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { engine } from "../../state/engine";
import { zonesInView } from "../../state/group-view";
import { keyX, settleAxis } from "../../state/key-axis";
import { partZones } from "../../state/selected-zones";
import { session } from "../../state/session";
import { useThumbnails, wantThumbnails } from "../../state/thumbnails";
import { useHeard } from "../../state/use-heard";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { WithMenu } from "../../widgets/CommandMenu";
import { type Draw, Drawing } from "../../widgets/Drawing";
import { useSize } from "../../widgets/use-size";
import { FieldReadout } from "./FieldReadout";
import { layStacks, type Stack, stackBeside } from "./field-geometry";
import { LayBar } from "./LayBar";
import { ZONE_COMMANDS } from "./map-commands";
import { paintGround, paintHandles, paintSpread, paintStacks } from "./paint-zones";
import { useFieldDrag } from "./use-field-drag";
import { useFieldDrop } from "./use-field-drop";
import { useFieldZoom } from "./use-field-zoom";
import { groupColours, groupMarks, zoneColours, zoneMarks } from "./zone-marks";

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
  const layers = useInstrument((i) => i.layers);
  const heardZones = useHeard(listZones);
  const { keyLow, keyCount, velFrom, velTo, zoneIds, paled, locked, spreading } = useView();
  const held = useStore(engine.store, (s) => s.held);
  const trace = useStore(engine.store, (s) => s.trace);
  const [frame, { width, height }] = useSize<HTMLDivElement>();
  const axis = useMemo(() => ({ low: keyLow, count: keyCount, width }), [keyLow, keyCount, width]);
  const velocities = useMemo(() => ({ height, low: velFrom, high: velTo }), [height, velFrom, velTo]);
  const { free, pale, fixed } = useMemo(() => zonesInView({ layers }, paled, locked), [layers, paled, locked]);
  // All stacks together are only needed for what lies under the pointer.
  const stacks = useMemo(() => once(() => layStacks(free, axis, velocities)), [free, axis, velocities]);
  // What is selected lies over the rest: while it is dragged the rest stays as it was painted.
  const { chosen, rest } = partZones(free, zoneIds);
  const restStacks = useMemo(() => layStacks(rest, axis, velocities), [rest, axis, velocities]);
  const paleStacks = useMemo(() => layStacks(pale, axis, velocities), [pale, axis, velocities]);
  const fixedStacks = useMemo(() => layStacks(fixed, axis, velocities), [fixed, axis, velocities]);
  const chosenStacks = useMemo(() => layStacks(chosen, axis, velocities), [chosen, axis, velocities]);
  const played = useMemo(() => {
    if (!trace || held.size === 0) return NONE;
    return new Set(trace.at.filter((z) => z.reason === 0).map((z) => heardZones[z.zone]?.id ?? ""));
  }, [trace, held, heardZones]);
  const all = useThumbnails((s) => s.of);
  // Of thousands only the plain fill can be seen anyway.
  const waves = restStacks.length + chosenStacks.length <= MOST_WAVES ? all : undefined;
  useEffect(() => {
    if (waves) void wantThumbnails([...restStacks, ...chosenStacks].flatMap((s) => s.zones[0]?.sample ?? []));
  }, [waves, restStacks, chosenStacks]);
  const marks = groupMarks(layers);
  const mics = useInstrument((i) => i.mics);
  const markOf = useMemo(() => zoneMarks(marks, mics, () => session.instrument?.layers ?? []), [marks, mics]);
  const colourText = groupColours(layers);
  const colourOf = useMemo(() => zoneColours(colourText, () => session.instrument?.layers ?? []), [colourText]);
  const draw = useCallback<Draw>(
    (pen, w, h, colours) => {
      paintGround(pen, w, h, axis, velocities, colours);
      pen.globalAlpha = 0.28;
      paintStacks(pen, paleStacks, { selected: NONE, played, axis, height: h }, colours);
      pen.globalAlpha = 0.6;
      paintStacks(pen, fixedStacks, { selected: NONE, played, axis, height: h, waves, markOf, colourOf }, colours);
      pen.globalAlpha = 1;
      paintStacks(pen, restStacks, { selected: NONE, played, axis, height: h, waves, markOf, colourOf }, colours);
    },
    [axis, velocities, paleStacks, fixedStacks, restStacks, played, waves, markOf, colourOf],
  );
  /** The stack whose fades can be taken hold of. */
  const single: Stack | undefined = chosenStacks.length === 1 ? chosenStacks[0] : undefined;
  const drawChosen = useCallback<Draw>(
    (pen, _w, h, colours) => {
      paintStacks(pen, chosenStacks, { selected: zoneIds, played, axis, height: h, waves, markOf, colourOf }, colours);
      if (single) paintHandles(pen, single, axis, colours);
      if (!spreading) return;
      const moved = free.flatMap((z) => (spreading.has(z.id) ? [{ ...z, ...spreading.get(z.id) }] : []));
      paintSpread(pen, layStacks(moved, axis, velocities), colours);
    },
    [axis, velocities, free, spreading, chosenStacks, single, zoneIds, played, waves, markOf, colourOf],
  );

  const { drag, over, cursor, hover, menu } = useFieldDrag({ stacks, free, single, axis, velocities });
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
  useFieldZoom(frame, width, height);
  const { dropKey, handlers } = useFieldDrop(axis, stacks);
  return (
    <div ref={frame} className="relative min-h-0 flex-1" {...handlers}>
      {dropKey !== null && (
        <div
          className="pointer-events-none absolute inset-y-0 z-10 border-cobalt border-l-2 bg-tint-cobalt opacity-70"
          style={{ left: keyX(axis, dropKey), width: Math.max(4, keyX(axis, dropKey + 1) - keyX(axis, dropKey)) }}
        >
          <span className="num absolute top-1 left-1 rounded-s bg-sheet px-1">{nameOfNote(dropKey)}</span>
        </div>
      )}
      {over && <FieldReadout over={over} width={width} />}
      <LayBar />
      <WithMenu commands={ZONE_COMMANDS}>
        <div className="h-full w-full">
          <Drawing
            draw={draw}
            label={`${plural(free.length, "zone")} by key and velocity`}
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
