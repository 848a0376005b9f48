import { AudioWaveform, TrendingUp } from "lucide-react";
import { useState } from "react";
import { useStore } from "zustand";
import { findUnit, type Instrument } from "../../core/instrument";
import { formatNumber, parseNumber } from "../../core/params";
import { engine } from "../state/engine";
import { useMeasured } from "../state/measured";
import { useInstrument } from "../state/use-session";
import { setView, useView } from "../state/view";
import { Button } from "../widgets/Button";
import { Choice, type ChoiceOption } from "../widgets/Choice";
import { Well } from "../widgets/Well";

/** Stands for all that is heard: no address can be this. */
const WHOLE = "·";
/** How loud test sounds are: so that 12 dB of gain don't reach the limiter. */
const LEVEL = -18;

/** What can be measured by itself: each layer, each send with units, the unit that is open if it stands on a bus. */
function placesOf({ layers, sends }: Instrument, open: { address: string; name: string } | null): ChoiceOption[] {
  return [
    { id: WHOLE, label: "What is heard" },
    ...layers.map((l) => ({ id: `layers/${l.id}`, label: l.name, group: "Layers" })),
    ...sends.filter((s) => s.units.length > 0).map((s) => ({ id: `sends/${s.id}`, label: s.name, group: "Sends" })),
    ...(open ? [{ id: open.address, label: open.name, group: "The open unit" }] : []),
  ];
}

const ON_BUS = /^(effects|sends\/[^/]+|layers\/[^/]+\/inserts)\/[^/]+$/;

/** The row that an address belongs to: there a test sound goes in. */
export const rowOf = (address: string | null): string => /^(layers|sends)\/[^/]+/.exec(address ?? "")?.[0] ?? "effects";

/** What the measures look at, and a tone or a sweep to be sent through it. */
export function TestSound() {
  const instrument = useInstrument((i) => i);
  const measured = useMeasured();
  const openAddress = useView((v) => v.soundUnit);
  const probe = useStore(engine.store, (s) => s.probe);
  const [hertz, setHertz] = useState(1000);
  const openUnit = openAddress !== null && ON_BUS.test(openAddress) ? findUnit(instrument, openAddress) : null;
  const open = openUnit && openAddress ? { address: openAddress, name: openUnit.name } : null;
  const places = placesOf(instrument, open);
  const at = rowOf(measured);
  // A unit that is no longer open stays what is looked at until something else is chosen.
  if (measured && !places.some((p) => p.id === measured))
    places.push({ id: measured, label: findUnit(instrument, measured)?.name ?? measured, group: "A unit" });
  const toned = probe?.kind === "tone";
  const tone = (frequency: number) => void engine.probe({ kind: "tone", at, hertz: frequency, level: LEVEL });
  const where = places.find((p) => p.id === at)?.label ?? (at === "effects" ? "the master chain" : at.split("/")[1]);
  return (
    <fieldset
      aria-label="What is measured, and test sounds"
      className="grid w-[190px] shrink-0 content-start gap-1.5 border-rule border-l px-3 py-2"
    >
      <Choice
        label="What is measured"
        value={measured ?? WHOLE}
        options={places}
        onChange={(id) => {
          setView({ measured: id === WHOLE ? null : id });
          if (probe) void engine.probe({ ...probe, at: rowOf(id === WHOLE ? null : id) });
        }}
        className="w-full"
      />
      <div className="flex items-center gap-1.5">
        <Button
          pressed={toned}
          hint={`A sine of ${formatNumber("decibels", LEVEL)} through ${where}`}
          onClick={() => (toned ? void engine.probe(null) : tone(hertz))}
        >
          <AudioWaveform size={13} aria-hidden /> Tone
        </Button>
        <Well
          label="Frequency of the tone"
          text={formatNumber("hertz", hertz)}
          width={76}
          align="right"
          onType={(text) => {
            const typed = parseNumber("hertz", text);
            if (typed === null || !(typed >= 1 && typed <= 20000)) return false;
            setHertz(typed);
            if (toned) tone(typed);
            return true;
          }}
        />
      </div>
      <Button
        pressed={probe?.kind === "sweep"}
        hint={`A sine from 20 Hz to 20 kHz through ${where}: what it meets is drawn over the spectrum`}
        onClick={() =>
          void engine.probe(probe?.kind === "sweep" ? null : { kind: "sweep", at, hertz: 0, level: LEVEL })
        }
      >
        <TrendingUp size={13} aria-hidden /> Sweep
      </Button>
    </fieldset>
  );
}
