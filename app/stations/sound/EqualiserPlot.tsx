import { useCallback, useRef } from "react";
import { type Edit, setParam, together, type Unit } from "../../../core/instrument";
import { formatNumber } from "../../../core/params";
import { session } from "../../state/session";
import { useDrag } from "../../widgets/use-drag";
import { BANDS, bandsOf, hasGain } from "./bands";
import { ResponsePlot } from "./ResponsePlot";
import { equaliserDecibels, frequencyAt, placeOf } from "./unit-picture";

/** Decibels from the top to the bottom of the plot. */
const TOP = 24;
const LINES = [12, 0, -12];
const RANGE = [TOP, -TOP] as const;

/** An equaliser's response, each band of it by a handle: across its frequency, up and down its gain, the wheel or Alt with arrows its width. */
export function EqualiserPlot({ address, unit }: { address: string; unit: Unit }) {
  const at = useCallback((frequency: number) => equaliserDecibels(unit, frequency), [unit]);
  return (
    <ResponsePlot label="Response of the equaliser" at={at} range={RANGE} lines={LINES} mark={null}>
      {bandsOf(unit).map((band, i) =>
        band.kind === "off" ? null : <Handle key={BANDS[i]} address={address} unit={unit} n={BANDS[i] as number} />,
      )}
    </ResponsePlot>
  );
}

function Handle({ address, unit, n }: { address: string; unit: Unit; n: number }) {
  const band = bandsOf(unit)[n - 1] as ReturnType<typeof bandsOf>[number];
  const own = useRef<HTMLButtonElement>(null);
  const set = (values: Readonly<Record<string, number>>, gesture: string | null) => {
    const { instrument } = session;
    if (!instrument) return;
    const edits = Object.entries(values).map(
      ([id, value]): Edit => setParam(instrument, `${address}/${id}${n}`, value),
    );
    session.commit({ ...together(`Set band ${n}`, edits), merge: `band:${address}:${n}` }, gesture);
  };
  const drag = useDrag({
    start: () => band,
    move: ({ data, dx, dy, gesture }) => {
      const box = own.current?.parentElement?.getBoundingClientRect();
      if (!box) return;
      const frequency = frequencyAt(placeOf(data.frequency) + dx / box.width);
      const gain = data.gain - (dy / box.height) * 2 * TOP;
      set(hasGain(data.kind) ? { frequency, gain } : { frequency }, gesture);
    },
  });
  const gain = hasGain(band.kind) ? band.gain : 0;
  const text = `${formatNumber("hertz", band.frequency)}${hasGain(band.kind) ? `, ${formatNumber("decibels", band.gain)}` : ""}`;
  return (
    <button
      ref={own}
      type="button"
      {...drag}
      aria-label={`Band ${n}: ${text}`}
      title={`Band ${n}: ${text}. Arrows move it, Alt with up and down makes it narrower or wider.`}
      onKeyDown={(event) => {
        const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
        if (!by) return;
        event.preventDefault();
        event.stopPropagation();
        const [across = 0, up = 0] = by;
        if (event.altKey) set({ q: band.q * 2 ** (up / 6) }, "keys");
        else if (across !== 0) set({ frequency: band.frequency * 2 ** (across / (event.shiftKey ? 48 : 12)) }, "keys");
        else if (hasGain(band.kind)) set({ gain: band.gain + up * (event.shiftKey ? 0.1 : 0.5) }, "keys");
      }}
      className="num absolute grid size-6 -translate-x-1/2 -translate-y-1/2 touch-none place-items-center rounded-full border-2 border-cobalt bg-sheet text-[11px]"
      style={{
        left: `${Math.min(98, Math.max(2, placeOf(band.frequency) * 100))}%`,
        top: `${Math.min(92, Math.max(8, 50 - (gain / TOP) * 50))}%`,
      }}
    >
      {n}
    </button>
  );
}
