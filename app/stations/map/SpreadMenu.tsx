import { Popover } from "radix-ui";
import { memo, useState } from "react";
import { nameOfNote, parseNote } from "../../../core/audio";
import { changeZones, listZones } from "../../../core/instrument";
import { type SpreadMode, spreadRoots } from "../../../core/mapping";
import { plural } from "../../../core/params";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { ReachRows } from "./ReachRows";
import { SPREADS } from "./spreads";

/** Spreads the roots over the keys between the limits. */
export const SpreadMenu = memo(function SpreadMenu() {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>Spread</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={8}
          className="z-40 w-72 rounded-m border border-ink bg-sheet p-4"
        >
          <SpreadForm />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
});

/** It begins with the keys that are mapped when it is opened. */
function SpreadForm() {
  const zones = useInstrument(listZones);
  const [mode, setMode] = useState<SpreadMode>("nearest");
  const [low, setLow] = useState(() => zones.reduce((least, z) => Math.min(least, z.keyLow), 127));
  const [high, setHigh] = useState(() => zones.reduce((most, z) => Math.max(most, z.keyHigh), 0));
  const [most, setMost] = useState(127);
  const [outer, setOuter] = useState(true);
  const spread = () => {
    const ranges = spreadRoots(
      zones.map((z) => z.root),
      { mode, low: Math.min(low, high), high: Math.max(low, high), most, outer },
    );
    const inside = zones.filter((z) => ranges.has(z.root));
    session.commit(
      changeZones(new Set(inside.map((z) => z.id)), "Spread roots", (zone) => {
        const range = ranges.get(zone.root);
        return range ? { ...zone, keyLow: range.low, keyHigh: range.high } : zone;
      }),
    );
  };
  const key = (label: string, value: number, set: (key: number) => void) => (
    <Row label={label}>
      <Well
        label={label}
        text={nameOfNote(value)}
        width={62}
        onType={(text) => {
          const parsed = parseNote(text);
          if (parsed !== null) set(parsed);
          return parsed !== null;
        }}
        onStep={(steps) => set(Math.min(127, Math.max(0, value + steps)))}
      />
    </Row>
  );
  const outside = zones.filter((z) => z.root < Math.min(low, high) || z.root > Math.max(low, high)).length;
  return (
    <>
      <h2 className="mb-2 font-display font-semibold">Spread the roots</h2>
      <Row label="Keys between">
        <Choice
          label="Spread mode"
          value={mode}
          options={SPREADS}
          onChange={(id) => setMode(id as SpreadMode)}
          className="flex-1"
        />
      </Row>
      {key("Lowest key", low, setLow)}
      {key("Highest key", high, setHigh)}
      <ReachRows most={most} outer={outer} onMost={setMost} onOuter={setOuter} />
      <p className="my-2 text-ink-soft text-s">
        {mode === "none"
          ? "Only the roots sound; the keys between them stay silent."
          : "Of zones that share velocity and repeat, none covers a key twice, and no key between two roots is left out."}
        {outside > 0 &&
          ` ${plural(outside, "zone lies", "zones lie")} with ${outside === 1 ? "its root" : "their roots"} outside the limits and ${outside === 1 ? "stays" : "stay"} as ${outside === 1 ? "it is" : "they are"}.`}
      </p>
      <Popover.Close asChild>
        <Button look="primary" onClick={spread}>
          Spread
        </Button>
      </Popover.Close>
    </>
  );
}
