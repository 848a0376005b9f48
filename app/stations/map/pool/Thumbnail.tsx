import { memo } from "react";
import { useThumbnails } from "../../../state/thumbnails";

const [WIDTH, HEIGHT] = [34, 18];

/** A sample's wave, as small as a word. */
export const Thumbnail = memo(function Thumbnail({ sha }: { sha: string }) {
  const wave = useThumbnails((s) => s.of.get(sha));
  if (!wave) return <span className="h-px w-[34px] bg-rule" aria-hidden />;
  const step = WIDTH / wave.length;
  const path = Array.from(wave, (peak, c) => {
    const half = Math.max(0.4, (Math.sqrt(peak) * HEIGHT) / 2);
    return `M${(c + 0.5) * step} ${HEIGHT / 2 - half}v${half * 2}`;
  }).join("");
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden className="shrink-0">
      <path d={path} className="stroke-ink" strokeWidth={0.8} />
    </svg>
  );
});
