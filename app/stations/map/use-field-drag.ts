import { type MouseEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { createStore } from "zustand/vanilla";
import type { Zone } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { engine } from "../../state/engine";
import { abandonGesture } from "../../state/gesture";
import { type KeyAxis, keyAt } from "../../state/key-axis";
import { session } from "../../state/session";
import type { VelocityAxis } from "../../state/velocity-axis";
import { setView, useView } from "../../state/view";
import { useDrag } from "../../widgets/use-drag";
import type { Over } from "./FieldReadout";
import { chosenBy, dragTo, type Grip, gripOf, stepOf } from "./field-drag";
import { hitFade, hitField, regionAt, type Stack, velocityAt, zonesInBox } from "./field-geometry";
import { dropZones } from "./outline/outline-commands";

const CURSORS = { body: "grab", left: "ew-resize", right: "ew-resize", top: "ns-resize", bottom: "ns-resize" } as const;
const NONE: ReadonlySet<string> = new Set();

/** The row of the outline under a pointer that came from the field; null for none. */
const rowUnder = ({ clientX, clientY }: PointerEvent): string | null =>
  document.elementFromPoint(clientX, clientY)?.closest<HTMLElement>("[data-outlined]")?.dataset.outlined ?? null;

function setOutlineOver(outlineOver: string | null): void {
  if (useView.getState().outlineOver !== outlineOver) setView({ outlineOver });
}

/** Whether something of the field is being dragged: what stands around it follows calmly meanwhile. */
export const fieldHeld = createStore<{ readonly held: boolean }>(() => ({ held: false }));

/** What lies on the field and can be touched. */
interface Touchable {
  readonly stacks: () => readonly Stack[];
  readonly free: readonly Zone[];
  /** The stack whose fades can be taken hold of. */
  readonly single: Stack | undefined;
  readonly axis: KeyAxis;
  readonly velocities: VelocityAxis;
}

/** Presses and drags over the field: zones, their edges and fades, boxes in which zones are chosen, the names of keys and velocities. */
export function useFieldDrag({ stacks, free, single, axis, velocities }: Touchable) {
  const { width } = axis;
  const zoneIds = useView((v) => v.zoneIds);
  const [cursor, setCursor] = useState("default");
  const [over, setOver] = useState<Over | null>(null);
  const done = useRef({ step: "", text: "" });
  // A field that goes away in the middle of a drag never hears of its end.
  useEffect(() => () => fieldHeld.setState({ held: false }), []);
  /** Where the field lies on the page: asked when the pointer goes down, for each answer may cost a layout. */
  const lies = useRef<DOMRect | null>(null);
  const place = (event: PointerEvent | MouseEvent, dragging = false) => {
    if (!dragging || !lies.current) lies.current = event.currentTarget.getBoundingClientRect();
    return { x: event.clientX - lies.current.left, y: event.clientY - lies.current.top };
  };
  const at = ({ x, y }: { x: number; y: number }) => ({ key: keyAt(axis, x), velocity: velocityAt(y, velocities) });
  /** A press on the names of keys or velocities chooses all that answers there. */
  const chooseAll = (event: PointerEvent, region: "keys" | "velocities", more: boolean): void => {
    const { key, velocity } = at(place(event));
    const found = free.filter((z) =>
      region === "keys" ? z.keyLow <= key && z.keyHigh >= key : z.velLow <= velocity && z.velHigh >= velocity,
    );
    setView({ zoneIds: new Set([...(more ? zoneIds : []), ...found.map((z) => z.id)]) });
  };
  const drag = useDrag<Grip>({
    slack: 4,
    start: (event) => {
      const { x, y } = place(event);
      const more = event.shiftKey || event.ctrlKey || event.metaKey;
      const region = regionAt(x, y, width);
      if (region !== "field") {
        chooseAll(event, region, more);
        return null;
      }
      const fade = single && hitFade(single, axis, x, y);
      if (single && fade) {
        const before = new Map(single.zones.map((z) => [z.id, z]));
        return { kind: "fade", part: fade, ids: new Set(before.keys()), before, ...at({ x, y }) };
      }
      const hit = hitField(stacks(), x, y);
      if (!hit) {
        if (!more) setView({ zoneIds: new Set() });
        return { kind: "box", x, y, kept: more ? zoneIds : NONE };
      }
      const ids = chosenBy(hit, zoneIds, more);
      if (ids !== zoneIds) setView({ zoneIds: ids });
      const { instrument } = session;
      return instrument ? gripOf(instrument, free, ids, hit.part, at({ x, y })) : null;
    },
    move: ({ data, gesture, dx, dy }, event) => {
      const { x, y } = place(event, true);
      if (!fieldHeld.getState().held) fieldHeld.setState({ held: true });
      if (data.kind === "box") {
        const box = { x0: data.x, y0: data.y, x1: x, y1: y };
        const touched = zonesInBox(stacks(), box);
        setView({ zoneIds: new Set([...data.kept, ...touched]) });
        setOver({ text: plural(touched.size, "zone"), x, y, box });
        return;
      }
      const outside = x > width;
      const row = outside && data.kind === "zones" && data.part === "body" ? rowUnder(event) : null;
      setOutlineOver(row);
      if (row !== null) {
        // They go into the group as they stood before the drag.
        if (done.current.step !== row) abandonGesture(gesture);
        done.current = { step: row, text: "" };
        setOver(null);
        return;
      }
      const to = at({ x, y });
      const upright = Math.abs(dy) > Math.abs(dx);
      // Most moves of a pointer go no key further: then nothing but the reading goes along.
      const step = `${gesture} ${stepOf(data, to, upright)} ${event.altKey}`;
      if (step !== done.current.step) done.current = { step, text: dragTo(data, to, event.altKey, upright, gesture) };
      setOver({ text: done.current.text, x, y, box: null });
    },
    end: ({ data }) => {
      const { outlineOver } = useView.getState();
      if (data.kind === "zones" && outlineOver !== null) dropZones(outlineOver, data.ids);
    },
    // A click sounds the zone, at a velocity and key of its own.
    click: ({ data }) => {
      if (data.kind !== "zones") return;
      engine.noteOn(data.key, data.velocity);
      setTimeout(() => engine.noteOff(data.key), 350);
    },
    over: () => {
      fieldHeld.setState({ held: false });
      setOver(null);
      setOutlineOver(null);
    },
  });
  /** A menu opens on what lies under the pointer. */
  const menu = (event: MouseEvent) => {
    const { x, y } = place(event);
    const hit = hitField(stacks(), x, y);
    if (hit && !hit.stack.zones.some((z) => zoneIds.has(z.id)))
      setView({ zoneIds: new Set(hit.stack.zones.map((z) => z.id)) });
  };
  const hover = (event: PointerEvent<HTMLElement>) => {
    if (event.buttons !== 0) return;
    const { x, y } = place(event);
    const fade = single && hitFade(single, axis, x, y);
    const hit = regionAt(x, y, width) === "field" ? hitField(stacks(), x, y) : null;
    setCursor(fade ? "move" : hit ? CURSORS[hit.part] : "default");
  };
  return { drag, over, cursor, hover, menu };
}
