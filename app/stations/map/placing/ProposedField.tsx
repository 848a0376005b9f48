import { type PointerEvent, useCallback, useEffect, useMemo } from "react";
import { useStore } from "zustand";
import { listZones } from "../../../../core/instrument";
import { plural } from "../../../../core/params";
import { engine } from "../../../state/engine";
import { keyAt } from "../../../state/key-axis";
import type { Proposal } from "../../../state/proposal";
import { useThumbnails, wantThumbnails } from "../../../state/thumbnails";
import { useInstrument } from "../../../state/use-session";
import { useView } from "../../../state/view";
import { type Draw, Drawing } from "../../../widgets/Drawing";
import { useSize } from "../../../widgets/use-size";
import { allVelocities, layStacks, velocityAt } from "../field-geometry";
import { paintGround, paintStacks } from "../paint-zones";
import { paintProposal } from "./paint-proposal";

const NONE: ReadonlySet<string> = new Set();
/** With more stacks than that waves give way to plain fill. */
const MOST_WAVES = 800;

/** The field as it would be: what is to be placed stands dashed on it, what stays lies pale below. The keys sound it already. */
export function ProposedField({ proposal }: { proposal: Proposal }) {
  const mapped = useInstrument(listZones);
  const { keyLow, keyCount } = useView();
  const waves = useThumbnails((s) => s.of);
  const held = useStore(engine.store, (s) => s.held);
  const trace = useStore(engine.store, (s) => s.trace);
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const { placement, into, preview } = proposal;
  const axis = useMemo(() => ({ low: keyLow, count: keyCount, width }), [keyLow, keyCount, width]);
  const kept = into === "replace" ? [] : mapped;
  const below = useMemo(() => layStacks(kept, axis, allVelocities(height)), [kept, axis, height]);
  const stacks = useMemo(() => layStacks(placement.zones, axis, allVelocities(height)), [placement, axis, height]);
  const doubtful = useMemo(() => new Set(placement.doubts.map((d) => d.zone)), [placement]);
  const all = useMemo(() => listZones(preview), [preview]);
  const played = useMemo(() => {
    if (!trace || held.size === 0) return NONE;
    return new Set(trace.at.filter((z) => z.reason === 0).map((z) => all[z.zone]?.id ?? ""));
  }, [trace, held, all]);
  useEffect(() => {
    if (stacks.length <= MOST_WAVES) void wantThumbnails(stacks.flatMap((s) => s.zones[0]?.sample ?? []));
  }, [stacks]);
  const draw = useCallback<Draw>(
    (pen, w, h, colours) => {
      paintGround(pen, w, h, axis, allVelocities(h), colours);
      pen.globalAlpha = 0.35;
      paintStacks(pen, below, { selected: NONE, played, axis, height: h }, colours);
      pen.globalAlpha = 1;
      paintProposal(pen, stacks, { axis, played, doubtful, waves }, colours);
    },
    [axis, below, stacks, played, doubtful, waves],
  );
  const play = (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0) return;
    const bounds = event.currentTarget.getBoundingClientRect();
    const key = keyAt(axis, event.clientX - bounds.left);
    engine.noteOn(key, velocityAt(event.clientY - bounds.top, allVelocities(height)));
    const { currentTarget, pointerId } = event;
    currentTarget.setPointerCapture(pointerId);
    currentTarget.addEventListener("lostpointercapture", () => engine.noteOff(key), { once: true });
  };
  return (
    <div ref={box} className="relative min-h-0 flex-1">
      <Drawing
        draw={draw}
        label={`${plural(placement.zones.length, "zone")} that would be placed, by key and velocity`}
        data-testid="proposed-field"
        className="h-full w-full touch-none"
        onPointerDown={play}
      />
    </div>
  );
}
