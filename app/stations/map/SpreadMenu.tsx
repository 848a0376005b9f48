import { Popover } from "radix-ui";
import { memo, useEffect, useMemo, useState } from "react";
import { changeZones, type Instrument, listZones, type Zone } from "../../../core/instrument";
import { spreadZones, type ZoneSpread } from "../../../core/mapping";
import { plural } from "../../../core/params";
import { partZones } from "../../state/selected-zones";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row } from "../../widgets/ParamControl";
import { EndKeys } from "./EndKeys";
import { ReachRows } from "./ReachRows";
import { STEPS, ZONE_SPREADS } from "./spreads";

/** Spreads zones over the keys between limits: what comes of it stands dashed on the field before it is done. */
export const SpreadMenu = memo(function SpreadMenu() {
  return (
    <Popover.Root modal={false}>
      <Popover.Trigger asChild>
        <Button>Spread</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={8}
          align="end"
          aria-label="Spread zones over keys"
          className="z-40 w-72 rounded-m border border-ink bg-sheet p-4"
          // The keys are played while it is open.
          onInteractOutside={(event) => event.preventDefault()}
        >
          <SpreadForm />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
});

/** Whose zones are spread: all, the selected ones, or those of a layer or group. */
function membersOf(
  instrument: Pick<Instrument, "layers">,
  zones: readonly Zone[],
  of: string,
  chosen: readonly Zone[],
): readonly Zone[] {
  if (of === "all") return zones;
  if (of === "selected") return chosen;
  const [layer, group] = of.split("/");
  return instrument.layers
    .filter((l) => l.id === layer)
    .flatMap((l) => l.groups.filter((g) => group === undefined || g.id === group).flatMap((g) => g.zones));
}

/** The keys that some zones cover; all where there are none. */
const coveredBy = (zones: readonly Zone[]) => ({
  low: zones.reduce((least, z) => Math.min(least, z.keyLow), zones.length > 0 ? 127 : 0),
  high: zones.reduce((most, z) => Math.max(most, z.keyHigh), zones.length > 0 ? 0 : 127),
});

const TRACKS = [
  { id: "as", label: "as it is" },
  { id: "on", label: "follows the keys" },
  { id: "off", label: "stays the same" },
] as const;

/** It begins with the zones that are selected, where these are of several roots, and with the keys that they cover. */
function SpreadForm() {
  const zones = useInstrument(listZones);
  const layers = useInstrument((i) => i.layers);
  const zoneIds = useView((v) => v.zoneIds);
  const { chosen } = partZones(zones, zoneIds);
  const [of, setOf] = useState(() => (new Set(chosen.map((z) => z.root)).size > 1 ? "selected" : "all"));
  const members = useMemo(() => membersOf({ layers }, zones, of, chosen), [layers, zones, of, chosen]);
  const homes = useMemo(
    () =>
      new Map(layers.flatMap((l) => l.groups.flatMap((g) => g.zones.map((z) => [z.id, `${l.id}/${g.id}`] as const)))),
    [layers],
  );
  const [mode, setMode] = useState<ZoneSpread>("nearest");
  const [ends, setEnds] = useState(() => coveredBy(members));
  const [most, setMost] = useState(127);
  const [outer, setOuter] = useState(true);
  const [step, setStep] = useState("all");
  const [track, setTrack] = useState<(typeof TRACKS)[number]["id"]>("as");
  const spread = useMemo(
    () =>
      spreadZones(members, {
        ...{ mode, most, outer },
        low: Math.min(ends.low, ends.high),
        high: Math.max(ends.low, ends.high),
        step: STEPS.find((s) => s.id === step)?.step ?? "all",
        track: track === "as" ? null : track === "on" ? 1 : 0,
        apart: (zone) => `${homes.get(zone.id)} ${zone.mic}`,
      }),
    [members, mode, most, outer, ends, step, track, homes],
  );
  useEffect(() => {
    setView({ spreading: spread });
    return () => setView({ spreading: null });
  }, [spread]);
  const whose = [
    { id: "all", label: `all ${plural(zones.length, "zone")}` },
    ...(chosen.length > 0 ? [{ id: "selected", label: `the ${chosen.length} selected` }] : []),
    ...(layers.length > 1 ? layers.map((l) => ({ id: l.id, label: `layer ${l.name}` })) : []),
    ...layers.flatMap((l) =>
      l.groups.length > 1 ? l.groups.map((g) => ({ id: `${l.id}/${g.id}`, label: `group ${g.name}` })) : [],
    ),
  ];
  const left = members.length - spread.size;
  return (
    <>
      <h2 className="mb-2 font-display font-semibold">Spread over the keys</h2>
      <Row label="Spread">
        <Choice
          label="Whose zones"
          value={of}
          options={whose}
          onChange={(id) => {
            setOf(id);
            setEnds(coveredBy(membersOf({ layers }, zones, id, chosen)));
          }}
          className="flex-1"
        />
      </Row>
      <Row label="How">
        <Choice
          label="Spread mode"
          value={mode}
          options={ZONE_SPREADS}
          onChange={(id) => setMode(id as ZoneSpread)}
          className="flex-1"
        />
      </Row>
      {mode === "each" && (
        <Row label="Takes">
          <Choice label="Which keys" value={step} options={STEPS} onChange={setStep} className="flex-1" />
        </Row>
      )}
      <EndKeys ends={ends} onEnds={setEnds} />
      {mode !== "each" && mode !== "whole" && (
        <ReachRows most={most} outer={outer} onMost={setMost} onOuter={setOuter} />
      )}
      <Row label="Pitch">
        <Choice
          label="Whether the pitch follows the keys"
          value={track}
          options={TRACKS}
          onChange={(id) => setTrack(id as typeof track)}
          className="flex-1"
        />
      </Row>
      <p className="my-2 text-ink-soft text-s">
        {NOTES[mode]}
        {left > 0 &&
          ` ${plural(left, "zone lies", "zones lie")} beyond the limits and ${left === 1 ? "stays" : "stay"} as ${left === 1 ? "it is" : "they are"}.`}
      </p>
      <div className="flex gap-2">
        <Popover.Close asChild>
          <Button
            look="primary"
            disabled={spread.size === 0}
            onClick={() =>
              session.commit(
                changeZones(new Set(spread.keys()), "Spread roots", (zone) => ({ ...zone, ...spread.get(zone.id) })),
              )
            }
          >
            Spread
          </Button>
        </Popover.Close>
        <Popover.Close asChild>
          <Button>Cancel</Button>
        </Popover.Close>
      </div>
    </>
  );
}

const BETWEEN =
  "Of zones that share velocity and repeat, none covers a key twice, and no key between two roots is skipped.";
const NOTES: Readonly<Record<ZoneSpread, string>> = {
  nearest: BETWEEN,
  down: BETWEEN,
  up: BETWEEN,
  none: "Only the roots sound; the keys between them stay silent.",
  whole: "Every zone answers every key between the limits.",
  each: "The roots in their order get a key each, on which they sound as they were recorded.",
};
