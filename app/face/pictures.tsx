import { useCallback, useEffect, useState } from "react";
import { drawnLayer } from "../../core/face";
import type { FaceItem, FacePicture, Instrument, PictureLayer } from "../../core/instrument";
import { useFaceOf } from "./face-world";

/** A picture of the face by its id; null where it is gone. */
export function usePicture(id: string | null): FacePicture | null {
  return useFaceOf(
    useCallback((instrument: Instrument) => instrument.face.pictures.find((p) => p.id === id) ?? null, [id]),
  );
}

/** Seconds since something began to be shown, as often as it asks for; it stands still for those who want less movement. */
function useSeconds(rate: number): number {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    if (rate <= 0 || matchMedia("(prefers-reduced-motion: reduce)").matches) return;
    const began = performance.now();
    const timer = setInterval(() => setSeconds((performance.now() - began) / 1000), 1000 / rate);
    return () => clearInterval(timer);
  }, [rate]);
  return seconds;
}

/** All pictures of an item over each other; `travel` is the place of what it moves, `instead` a picture in place of its first. */
export function Pictures({
  item,
  travel,
  instead,
  text = "",
}: {
  item: Pick<FaceItem, "pictures" | "id">;
  travel: number;
  instead: string | null;
  text?: string;
}) {
  const given: readonly PictureLayer[] =
    item.pictures.length === 0 && instead !== null
      ? [{ picture: instead, does: "stays", frames: 1, rate: 12 }]
      : item.pictures;
  return (
    <div style={{ position: "absolute", inset: 0, overflow: "hidden", pointerEvents: "none" }}>
      {given.map((layer, n) => (
        <Layer
          // biome-ignore lint/suspicious/noArrayIndexKey: one picture may lie there twice
          key={n}
          layer={n === 0 && instead !== null ? { ...layer, picture: instead } : layer}
          travel={travel}
          text={n === 0 ? text : ""}
        />
      ))}
    </div>
  );
}

function Layer({ layer, travel, text }: { layer: PictureLayer; travel: number; text: string }) {
  const picture = usePicture(layer.picture);
  const seconds = useSeconds(layer.does === "plays" ? layer.rate : 0);
  if (!picture) return null;
  const { width, height, x, y, turn, seen } = drawnLayer(layer, picture, travel, seconds);
  const framed = layer.does === "frames" || layer.does === "plays";
  const moved = layer.does === "slides" || layer.does === "rises";
  return (
    <img
      src={picture.data}
      alt={text}
      draggable={false}
      style={{
        position: "absolute",
        maxWidth: "none",
        // What slides keeps its form; frames fill the item exactly.
        ...(moved
          ? layer.does === "slides"
            ? { height: "100%", left: `${x * 100}%`, top: 0, transform: `translateX(${-x * 100}%)` }
            : { width: "100%", top: `${y * 100}%`, left: 0, transform: `translateY(${-y * 100}%)` }
          : { width: `${width * 100}%`, height: `${height * 100}%`, left: `${x * 100}%`, top: `${y * 100}%` }),
        objectFit: framed || moved ? "fill" : "contain",
        ...(turn === 0 ? {} : { transform: `rotate(${turn}deg)` }),
        ...(seen === 1 ? {} : { clipPath: `inset(${(1 - seen) * 100}% 0 0 0)` }),
      }}
    />
  );
}
