import { type PointerEvent, useMemo, useRef } from "react";
import { useStore } from "zustand";
import { nameOfNote } from "../../core/audio";
import { byIdentity, type Instrument, listZones, type Zone } from "../../core/instrument";
import { engine } from "../state/engine";
import { audibleZones } from "../state/group-view";
import { isBlack, type KeyAxis, keyX, settleAxis } from "../state/key-axis";
import { strengthOf } from "../state/strength";
import { useHeard } from "../state/use-heard";
import { setView, useView } from "../state/view";
import { useSize } from "../widgets/use-size";
import { useWheel } from "../widgets/use-wheel";

/** How far down black keys reach. */
const BLACK = 0.6;

const ANSWERS = 1;
const ROOT = 2;

/** For each key whether any zone answers it and whether it is a root, as a text, so that it stays the same while zones change otherwise. */
const marksOf = byIdentity((zones: readonly Zone[]): string => {
  const marks = new Uint8Array(128);
  // By numbers: there may be thousands, and this is done after every edit of one.
  for (let i = 0; i < zones.length; i++) {
    const { keyLow, keyHigh, root } = zones[i] as Zone;
    for (let key = keyLow; key <= keyHigh; key++) marks[key] = (marks[key] as number) | ANSWERS;
    marks[root] = (marks[root] as number) | ROOT;
  }
  return marks.join("");
});

/** The keys that are keyswitches, each with the groups that it lets sound, as a text that stays the same while nothing of it changes. */
const switchesOf = byIdentity((layers: Instrument["layers"]): string => {
  const names = new Map<number, string[]>();
  for (const { groups } of layers) {
    for (const { name, settings } of groups) {
      if (settings.params.keyswitch === "none") continue;
      const key = Math.round(Number(settings.params.switchKey));
      names.set(key, [
        ...(names.get(key) ?? []),
        settings.params.keyswitch === "momentary" ? `${name} (while held)` : name,
      ]);
    }
  }
  return JSON.stringify([...names].map(([key, all]) => [key, all.join(", ")]));
});

/** The keyboard along the bottom: plays, shows which keys sound, where the roots are and what is held. Harder towards the edge. */
export function Keybed() {
  const muted = useView((v) => v.muted);
  const alone = useView((v) => v.alone);
  const marks = useHeard((i) => marksOf(muted.size + alone.size === 0 ? listZones(i) : audibleZones(i, muted, alone)));
  const switchText = useHeard((i) => switchesOf(i.layers));
  const switches = useMemo(() => new Map(JSON.parse(switchText) as [number, string][]), [switchText]);
  const held = useStore(engine.store, (s) => s.held);
  const { keyLow, keyCount } = useView();
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const black = Math.round(height * BLACK);
  const playing = useRef<number | null>(null);
  const axis: KeyAxis = { low: keyLow, count: keyCount, width };

  const play = (event: PointerEvent, starting: boolean) => {
    if (!starting && playing.current === null) return;
    const bounds = event.currentTarget.getBoundingClientRect();
    const key = keyLow + Math.floor(((event.clientX - bounds.left) * keyCount) / width);
    if (key < keyLow || key >= keyLow + keyCount || key === playing.current) return;
    const depth = (event.clientY - bounds.top) / (isBlack(key) ? black : height);
    release();
    playing.current = key;
    engine.noteOn(key, strengthOf(20 + 107 * Math.min(1, Math.max(0, depth))));
  };
  const release = () => {
    if (playing.current !== null) engine.noteOff(playing.current);
    playing.current = null;
  };
  useWheel(box, (event, notches) => {
    event.preventDefault();
    const bounds = box.current?.getBoundingClientRect();
    if (!bounds || notches === 0) return;
    const at = (event.clientX - bounds.left) / width;
    if (event.ctrlKey || event.metaKey) {
      const count = keyCount * 1.12 ** notches;
      setView(settleAxis(keyLow + at * (keyCount - count), count));
    } else setView(settleAxis(keyLow + notches * 2, keyCount));
  });
  return (
    <div
      ref={box}
      role="application"
      aria-label="Keyboard: click a key to play it, lower is harder; wheel to move, with Ctrl to zoom"
      className="relative min-w-0 flex-1 touch-none select-none overflow-hidden"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        play(event, true);
      }}
      onPointerMove={(event) => play(event, false)}
      onPointerUp={release}
      onPointerCancel={release}
      onLostPointerCapture={release}
    >
      <svg width={width} height={height} aria-hidden>
        {Array.from({ length: keyCount }, (_, i) => keyLow + i).map((key) => {
          const x = keyX(axis, key);
          const w = keyX(axis, key + 1) - x;
          const isDark = isBlack(key);
          const mark = Number(marks[key]);
          const answer = (mark & ANSWERS) !== 0;
          const down = held.has(key);
          return (
            <g key={key}>
              <rect
                x={x}
                y={-1}
                width={w}
                height={(isDark ? black : height) + 1}
                fill={down ? "var(--leaf)" : isDark ? "var(--key-black)" : "var(--key-white)"}
                stroke="var(--key-line)"
                opacity={answer || down ? 1 : 0.38}
              />
              {isDark && (
                <rect
                  x={x}
                  y={black}
                  width={w}
                  height={height - black}
                  fill="var(--key-white)"
                  opacity={answer || down ? 0.55 : 0.22}
                />
              )}
              {switches.has(key) && (
                <g data-testid="keyswitch">
                  <title>{`Keyswitch: ${switches.get(key)}`}</title>
                  <rect
                    x={x + w / 2 - Math.min(6, w / 2 - 1)}
                    y={(isDark ? black : height) - (height > 60 ? 34 : 16)}
                    width={Math.min(12, w - 2)}
                    height={13}
                    rx={2}
                    fill="var(--plum)"
                  />
                  {w > 8 && (
                    <text
                      x={x + w / 2}
                      y={(isDark ? black : height) - (height > 60 ? 24 : 6)}
                      textAnchor="middle"
                      fontSize={9}
                      className="num"
                      fill="var(--on-spot)"
                    >
                      S
                    </text>
                  )}
                </g>
              )}
              {(mark & ROOT) !== 0 && (
                <path
                  d={`M${x + w / 2 - 4} 0h8l-4 7z`}
                  fill={isDark || down ? "var(--key-white)" : "var(--key-black)"}
                />
              )}
              {key % 12 === 0 && w > 9 && height > 60 && (
                <text
                  x={x + w / 2}
                  y={height - 7}
                  textAnchor="middle"
                  fontSize={10.5}
                  className="num"
                  fill="var(--key-black)"
                  opacity={answer || down ? 0.8 : 0.65}
                >
                  {nameOfNote(key)}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </div>
  );
}
