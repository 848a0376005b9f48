import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { nameOfNote } from "../../core/audio";
import { REASON } from "../../core/engine";
import { type Instrument, listZones, moving } from "../../core/instrument";
import { type ControlProps, NAME, NumberControl, VALUE } from "./controls";
import { useBounds, useFaceOf, useFaceWorld } from "./face-world";
import { cleanPen } from "./Live";

/** The names by which a zone's number is told: its sample's. */
const zoneNames = (instrument: Instrument): readonly string[] => {
  const names = new Map(instrument.samples.map((s) => [s.sha, s.name]));
  return listZones(instrument).map((zone) => (zone.sample === null ? "" : (names.get(zone.sample) ?? "")));
};

const sameList = (a: readonly string[], b: readonly string[]): boolean =>
  a.length === b.length && a.every((x, i) => x === b[i]);
const layerNames = (instrument: Instrument): readonly string[] => instrument.layers.map((l) => l.name);

/** Which note was played last, and what of the instrument answered it. */
export function Trace() {
  const { host } = useFaceWorld();
  const trace = useStore(host.store, (s) => s.trace);
  const zones = useFaceOf(zoneNames, sameList);
  const layers = useFaceOf(layerNames, sameList);
  const answered = trace?.at.filter((a) => a.reason === REASON.played) ?? [];
  const names = [...new Set(answered.map((a) => zones[a.zone] || layers[a.layer] || ""))].filter((n) => n !== "");
  return (
    <div role="log" aria-label="Last note" style={{ height: "100%", overflow: "hidden" }}>
      <div style={{ ...NAME, fontWeight: 600 }}>
        {trace ? `${nameOfNote(trace.playedKey)} at ${Math.round(trace.playedVelocity)}` : "Play a note"}
      </div>
      <div style={{ ...NAME, color: "var(--f-soft)" }}>
        {trace ? (names.length > 0 ? names.join(", ") : "nothing answered") : "and what answers stands here"}
      </div>
    </div>
  );
}

/** How many voices sound. */
export function Voices({ label }: { label: string }) {
  const { host } = useFaceWorld();
  const voices = useStore(host.store, (s) => s.status.voices);
  return (
    <div
      style={{
        height: "100%",
        display: "flex",
        flexDirection: "column",
        alignItems: "center",
        justifyContent: "center",
      }}
    >
      <output aria-label={label} style={{ ...VALUE, color: "var(--f-ink)", fontSize: 20 }}>
        {voices}
      </output>
      <span style={{ ...NAME, fontWeight: 600 }}>{label}</span>
    </div>
  );
}

const A4 = moving("play/a4");
const tuningOf = (instrument: Instrument): string => instrument.tuning?.name ?? "Equal temperament";

/** The pitch of A4, to be dragged or typed, over the name of the tuning. */
export function TuningControl(props: ControlProps) {
  const bounds = useBounds({ moves: A4 });
  const name = useFaceOf(tuningOf);
  return <NumberControl {...props} bounds={bounds} label={props.item.text || name} />;
}

const waveColour = (canvas: HTMLElement, name: string): string =>
  getComputedStyle(canvas).getPropertyValue(name) || "#888";

/** The zones, by number, in which a sample is played, and how long it is. */
function playsOf(
  instrument: Instrument,
  sha: string,
): { readonly zones: ReadonlySet<number>; readonly frames: number } {
  const zones = new Set<number>();
  listZones(instrument).forEach((zone, n) => {
    if (zone.sample === sha) zones.add(n);
  });
  return { zones, frames: instrument.samples.find((s) => s.sha === sha)?.frames ?? 0 };
}

/** A sample's wave, and where in it the notes are that sound. */
export function SampleWave({ item: { wave } }: Pick<ControlProps, "item">) {
  const { host, instruments } = useFaceWorld();
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let request = 0;
    let known = {
      of: null as Instrument | null,
      plays: { zones: new Set<number>() as ReadonlySet<number>, frames: 0 },
    };
    const paint = () => {
      const { current } = canvas;
      const pen = current && cleanPen(current);
      if (!current || !pen) return;
      const { width, height } = current;
      pen.fillStyle = waveColour(current, "--f-ink");
      const outline = wave?.outline ?? [];
      for (let x = 0; x < width; x++) {
        const tall = Math.max(1, (outline[Math.floor((x / width) * outline.length)] ?? 0) * (height - 4));
        pen.fillRect(x, (height - tall) / 2, 1, tall);
      }
      if (!wave) return;
      // Of thousands of zones not for every picture.
      if (instruments.get() !== known.of)
        known = { of: instruments.get(), plays: playsOf(instruments.get(), wave.sample) };
      const { zones, frames } = known.plays;
      pen.fillStyle = waveColour(current, "--f-spot");
      for (const { zone, frame } of host.store.getState().cursors)
        if (frames > 0 && zones.has(zone)) pen.fillRect((frame / frames) * width - 1, 0, 2, height);
    };
    const later = () => {
      cancelAnimationFrame(request);
      request = requestAnimationFrame(paint);
    };
    paint();
    const stop = host.store.subscribe(later);
    return () => {
      cancelAnimationFrame(request);
      stop();
    };
  }, [host, instruments, wave]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="The wave of a sample, and where it sounds"
      style={{ flex: 1, minHeight: 0, width: "100%", background: "var(--f-fill)", color: "var(--f-ink)" }}
    />
  );
}
