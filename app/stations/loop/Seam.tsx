import { useCallback, useMemo } from "react";
import { decibelsOf } from "../../../core/audio";
import { firstEnd, likenessOf, loopedSample } from "../../../core/dsp";
import type { Loop } from "../../../core/instrument";
import { formatNumber } from "../../../core/params";
import { type Draw, Drawing } from "../../widgets/Drawing";
import { Row, Section } from "../../widgets/ParamControl";

const AROUND = 160;

/** The seam magnified: what is heard around the jump from the loop's end to its start, with its step in figures. */
export function Seam({ samples, loop }: { samples: Float32Array; loop: Loop }) {
  const { heard, step, alike } = useMemo(() => {
    const alikeness = likenessOf(samples, loop);
    const turn = firstEnd(loop);
    const around = Float32Array.from({ length: 2 * AROUND }, (_, i) =>
      loopedSample(samples, loop, alikeness, Math.max(0, turn - AROUND + i)),
    );
    return { heard: around, alike: alikeness, step: Math.abs((around[AROUND] ?? 0) - (around[AROUND - 1] ?? 0)) };
  }, [samples, loop]);
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      const peak = heard.reduce((m, x) => Math.max(m, Math.abs(x)), 1e-5);
      pen.strokeStyle = colours.leaf;
      pen.beginPath();
      pen.moveTo(width / 2, 0);
      pen.lineTo(width / 2, height);
      pen.stroke();
      pen.strokeStyle = colours.ink;
      pen.lineWidth = 1.4;
      pen.beginPath();
      heard.forEach((x, i) => {
        pen.lineTo((i / (heard.length - 1)) * width, height / 2 - (x / peak) * (height / 2 - 4));
      });
      pen.stroke();
    },
    [heard],
  );
  return (
    <Section title="Seam">
      <Drawing draw={draw} label="The sound around the seam" className="mb-2 h-20 w-full" />
      <Row label="Step" help="How far the sound jumps from the last sample of the loop to the first of the next round">
        <span className="num text-[12px]">{step < 1e-6 ? "none" : formatNumber("decibels", decibelsOf(step))}</span>
      </Row>
      <Row
        label="Likeness"
        help="How alike the two sounds are that cross: alike ones fade by equal gain, unlike ones by equal power"
      >
        <span className="num text-[12px]">{loop.fade === 0 ? "no crossfade" : `${Math.round(alike * 100)} %`}</span>
      </Row>
    </Section>
  );
}
