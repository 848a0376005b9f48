import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { decibelsOf } from "../../core/audio";
import type { EngineHost } from "../audio/engine-host";
import { useFaceWorld } from "./face-world";

/** Softest level that a meter shows, in decibels. */
const FLOOR = -60;
/** Frames of the wave that are drawn, and milliseconds between two pictures. */
const FRAMES = 1024;
const LOOK = 40;

/** How loud it is, of both sides, as two bars with the number in words. */
export function Meter() {
  const { host } = useFaceWorld();
  const { left, right } = useStore(host.store, (s) => s.status);
  const share = (peak: number) => Math.min(1, Math.max(0, 1 - decibelsOf(peak) / FLOOR));
  const level = decibelsOf(Math.max(left, right));
  return (
    <div
      role="meter"
      aria-label="Level"
      aria-valuemin={FLOOR}
      aria-valuemax={0}
      aria-valuenow={Math.round(Math.max(FLOOR, level))}
      style={{ flex: 1, display: "flex", flexDirection: "column", gap: 2, minHeight: 0 }}
    >
      {[left, right].map((peak, side) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the sides are always these two
        <div key={side} style={{ flex: 1, background: "var(--f-fill)" }}>
          <div
            style={{
              height: "100%",
              width: `${share(peak) * 100}%`,
              background: peak >= 1 ? "var(--f-spot)" : "var(--f-ink)",
            }}
          />
        </div>
      ))}
    </div>
  );
}

/** One ear for all waves of a face, however many are drawn. */
const ears = new WeakMap<EngineHost, { readonly listening: ReturnType<EngineHost["listen"]>; users: number }>();

function listenTogether(host: EngineHost): { readonly read: () => Float32Array | null; readonly stop: () => void } {
  const ear = ears.get(host) ?? { listening: host.listen(), users: 0 };
  ears.set(host, ear);
  ear.users++;
  return {
    read: () => ear.listening.read()?.left ?? null,
    stop: () => {
      ear.users--;
      if (ear.users > 0) return;
      ear.listening.stop();
      ears.delete(host);
    },
  };
}

/** A pen for a canvas that is as large as it is shown, and empty. */
export function cleanPen(canvas: HTMLCanvasElement): CanvasRenderingContext2D | null {
  const { clientWidth: width, clientHeight: height } = canvas;
  if (canvas.width !== width) canvas.width = width;
  if (canvas.height !== height) canvas.height = height;
  const pen = canvas.getContext("2d");
  pen?.clearRect(0, 0, width, height);
  return pen;
}

/** The wave that sounds, from where it goes up through nothing. */
export function Scope() {
  const { host, live } = useFaceWorld();
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const listening = listenTogether(host);
    const draw = () => {
      const { current } = canvas;
      const pen = current && cleanPen(current);
      if (!current || !pen) return;
      const { width, height } = current;
      pen.strokeStyle = getComputedStyle(current).color;
      pen.lineWidth = 1.5;
      const left = listening.read();
      pen.beginPath();
      if (left) {
        let from = left.length - 2 * FRAMES;
        while (from < left.length - FRAMES && !((left[from - 1] ?? 0) < 0 && (left[from] ?? 0) >= 0)) from++;
        for (let x = 0; x <= width; x++) {
          const y = left[from + Math.floor((x / width) * FRAMES)] ?? 0;
          pen.lineTo(x, height / 2 - Math.max(-1, Math.min(1, y * 2)) * (height / 2 - 2));
        }
      } else {
        pen.moveTo(0, height / 2);
        pen.lineTo(width, height / 2);
      }
      pen.stroke();
    };
    draw();
    const timer = setInterval(draw, live ? LOOK : LOOK * 4);
    return () => {
      clearInterval(timer);
      listening.stop();
    };
  }, [host, live]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="The wave that sounds"
      style={{ flex: 1, minHeight: 0, width: "100%", background: "var(--f-fill)", color: "var(--f-ink)" }}
    />
  );
}
