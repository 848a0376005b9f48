import { Trash2 } from "lucide-react";
import { memo, useCallback } from "react";
import { nameOfNote, parseNote } from "../../../core/audio";
import {
  byIdentity,
  changeZones,
  type Instrument,
  listZones,
  moveZones,
  removeZones,
  type Unit,
  type Zone,
} from "../../../core/instrument";
import { formatNumber, parseNumber, plural } from "../../../core/params";
import { audition, useWave } from "../../state/audio-queries";
import { partZones } from "../../state/selected-zones";
import { session } from "../../state/session";
import { useInstrument, useInstrumentParts } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { MenuButton } from "../../widgets/CommandMenu";
import { type Draw, Drawing } from "../../widgets/Drawing";
import { Fold, Row, Section } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";
import { drawWave, fillGain } from "../../widgets/wave-draw";
import { GroupSettings, Structure } from "./GroupInspector";
import { ZONE_COMMANDS } from "./map-commands";

type NumberField =
  | "keyLow"
  | "keyHigh"
  | "keyFadeLow"
  | "keyFadeHigh"
  | "velLow"
  | "velHigh"
  | "velFadeLow"
  | "velFadeHigh"
  | "root"
  | "track"
  | "tune"
  | "gain"
  | "pan"
  | "repeat";

/** Fields that zones share: their text, how they are typed, and one step of the arrow keys. */
const FIELDS: Record<
  NumberField,
  { what: string; format: (x: number) => string; parse: (text: string) => number | null; step: number }
> = {
  keyLow: { what: "Set lowest key", format: nameOfNote, parse: parseNote, step: 1 },
  keyHigh: { what: "Set highest key", format: nameOfNote, parse: parseNote, step: 1 },
  root: { what: "Set root", format: nameOfNote, parse: parseNote, step: 1 },
  velLow: { what: "Set lowest velocity", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  velHigh: { what: "Set highest velocity", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  keyFadeLow: { what: "Set lower key fade", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  keyFadeHigh: { what: "Set upper key fade", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  velFadeLow: { what: "Set lower velocity fade", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  velFadeHigh: { what: "Set upper velocity fade", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  track: {
    what: "Set key tracking",
    format: (x) => formatNumber("percent", x),
    parse: (t) => parseNumber("percent", t),
    step: 0.05,
  },
  repeat: { what: "Set repeat", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  tune: { what: "Set tuning", format: (x) => formatNumber("cents", x), parse: (t) => parseNumber("cents", t), step: 1 },
  gain: {
    what: "Set level",
    format: (x) => formatNumber("decibels", x),
    parse: (t) => parseNumber("decibels", t),
    step: 0.5,
  },
  pan: { what: "Set pan", format: (x) => formatNumber("pan", x), parse: (t) => parseNumber("pan", t), step: 0.05 },
};
const LIMITS: Partial<Record<NumberField, [number, number]>> = {
  tune: [-1200, 1200],
  track: [-2, 2],
  gain: [-60, 24],
  pan: [-1, 1],
  repeat: [1, 1000],
};

interface Field {
  readonly id: NumberField;
  readonly label: string;
  readonly width: number;
}
interface FieldRow {
  readonly label: string;
  readonly help?: string;
  readonly fields: readonly [Field, Field?];
}

const field = (id: NumberField, label: string, width = 58): Field => ({ id, label, width });

const ANSWERS: readonly FieldRow[] = [
  { label: "Keys", fields: [field("keyLow", "Lowest key"), field("keyHigh", "Highest key")] },
  {
    label: "Key fades",
    help: "Keys over which it fades in and out, by equal power",
    fields: [field("keyFadeLow", "Lower key fade"), field("keyFadeHigh", "Upper key fade")],
  },
  { label: "Root", help: "The key at which the sample sounds as it was recorded", fields: [field("root", "Root")] },
  { label: "Velocity", fields: [field("velLow", "Lowest velocity"), field("velHigh", "Highest velocity")] },
  {
    label: "Vel. fades",
    help: "Velocities over which it fades in and out, by equal power",
    fields: [field("velFadeLow", "Lower velocity fade"), field("velFadeHigh", "Upper velocity fade")],
  },
  {
    label: "Repeat",
    help: "Its turn among the round robins of the same key and velocity",
    fields: [field("repeat", "Repeat")],
  },
];
const SOUNDS: readonly FieldRow[] = [
  {
    label: "Tuning",
    help: "Correction in cents, so that the root is in tune; beside it what was measured, against the root",
    fields: [field("tune", "Tuning", 82)],
  },
  {
    label: "Tracking",
    help: "How far the pitch follows the keys: 100 % fully, 0 % not at all",
    fields: [field("track", "Key tracking", 82)],
  },
  { label: "Level", fields: [field("gain", "Zone level", 82)] },
  { label: "Pan", fields: [field("pan", "Zone pan", 82)] },
];

const samplesBySha = byIdentity((samples: Instrument["samples"]) => new Map(samples.map((s) => [s.sha, s])));

/** What one or several selected zones answer to and how they sound; every field takes typed values and sets them all. */
export function ZoneInspector() {
  const zoneIds = useView((v) => v.zoneIds);
  const zones = useInstrument((i) => partZones(listZones(i), zoneIds).chosen);
  const samples = useInstrument((i) => i.samples);
  const mics = useInstrument((i) => i.mics);
  const layers = useInstrument((i) => i.layers);
  const [first] = zones;
  if (!first) return <Structure />;
  const names = samplesBySha(samples);
  const sample = names.get(first.sample);
  const layer = layers.find((l) => l.groups.some((g) => g.zones.includes(first)));
  const group = layer?.groups.find((g) => g.zones.includes(first));
  const mixed = (id: NumberField | undefined) => id !== undefined && zones.some((z) => z[id] !== first[id]);
  const measured = zones.length === 1 && sample?.pitch != null ? (sample.pitch - first.root) * 100 : null;
  const row = (fields: FieldRow) => {
    const [one, other] = fields.fields;
    return (
      <NumberRow
        key={fields.label}
        row={fields}
        value={first[one.id]}
        mixed={mixed(one.id)}
        otherValue={other ? first[other.id] : 0}
        otherMixed={mixed(other?.id)}
        aside={
          one.id === "root"
            ? String(first.root)
            : one.id === "tune" && measured !== null
              ? `was ${measured.toFixed(1)}`
              : ""
        }
      />
    );
  };
  return (
    <>
      <div className="flex items-center justify-between gap-2">
        <h2 className="truncate font-display font-semibold text-l" title={sample?.name}>
          {zones.length === 1 ? (sample?.name ?? "a missing sample") : plural(zones.length, "zone")}
        </h2>
        <MenuButton label="What can be done with it" commands={ZONE_COMMANDS} />
      </div>
      <p className="mb-2 text-ink-soft text-s">
        group {group?.name} · layer {layer?.name}
      </p>
      {zones.length === 1 ? (
        <ZoneWave sample={first.sample} start={first.start} end={first.end} />
      ) : (
        <RepeatList zones={zones} nameOf={(z) => names.get(z.sample)?.name ?? "a missing sample"} />
      )}
      <Section title="Answers to">{ANSWERS.map(row)}</Section>
      <Section title="Sounds as">
        {SOUNDS.map(row)}
        <Switches reverse={first.reverse} oneShot={first.oneShot} />
        {mics.length > 0 && <MicRow mics={mics} mic={first.mic} />}
        <Row label="Loop">
          <span className="num text-[12px]">
            {first.loop
              ? `${formatNumber("seconds", (first.loop.end - first.loop.start) / (sample?.rate ?? 44100))}`
              : "none"}
          </span>
        </Row>
      </Section>
      {layer && group && (
        <Section title="Group">
          <GroupRow value={`${layer.id}/${group.id}`} />
          <Fold title="What the group’s zones share">
            <GroupSettings layer={layer} group={group} />
          </Fold>
        </Section>
      )}
      <Button
        onClick={() => {
          session.commit(removeZones(zoneIds));
          setView({ zoneIds: new Set() });
        }}
      >
        <Trash2 size={13} aria-hidden /> Remove {zones.length === 1 ? "the zone" : plural(zones.length, "zone")}
      </Button>
    </>
  );
}

/** A line of the inspector with one number or a range of two. */
const NumberRow = memo(function NumberRow({
  row: { label, help, fields },
  value,
  mixed,
  otherValue,
  otherMixed,
  aside,
}: {
  row: FieldRow;
  value: number;
  mixed: boolean;
  otherValue: number;
  otherMixed: boolean;
  aside: string;
}) {
  const [one, other] = fields;
  return (
    <Row label={label} help={help}>
      <ZoneField {...one} value={value} mixed={mixed} />
      {other && (
        <>
          {" – "}
          <ZoneField {...other} value={otherValue} mixed={otherMixed} />
        </>
      )}
      {aside && <span className="num text-ink-faint text-s">{aside}</span>}
    </Row>
  );
});

const set = (what: string, fields: Partial<Zone>) =>
  session.commit(changeZones(useView.getState().zoneIds, what, (z) => ({ ...z, ...fields })));

const Switches = memo(function Switches({ reverse, oneShot }: { reverse: boolean; oneShot: boolean }) {
  return (
    <>
      <Row label="Plays">
        <Toggle label="Reversed" on={reverse} onChange={(on) => set("Set direction", { reverse: on })} />
      </Row>
      <Row label="Let go" help="A one-shot plays on to its end when the key is let go">
        <Toggle label="One-shot" on={oneShot} onChange={(on) => set("Set one-shot", { oneShot: on })} />
      </Row>
    </>
  );
});

/** The group that the zones belong to, and where else they could. */
const GroupRow = memo(function GroupRow({ value }: { value: string }) {
  const groups = useInstrumentParts((i) =>
    i.layers.flatMap((l) => l.groups.map((g) => `${l.id}/${g.id}\n${l.name}: ${g.name}`)),
  );
  return (
    <Row label="Belongs to">
      <Choice
        label="Group"
        value={value}
        options={groups.map((text) => {
          const [id = "", label = ""] = text.split("\n");
          return { id, label };
        })}
        onChange={(id) => {
          const [layerId = "", groupId = ""] = id.split("/");
          session.commit(moveZones(useView.getState().zoneIds, layerId, groupId));
        }}
        className="flex-1"
      />
    </Row>
  );
});

const MicRow = memo(function MicRow({ mics, mic }: { mics: readonly Unit[]; mic: string | null }) {
  return (
    <Row label="Mic" help="The microphone that recorded it">
      <Choice
        label="Microphone"
        value={mic ?? "none"}
        options={[{ id: "none", label: "none" }, ...mics.map((u) => ({ id: u.id, label: u.name }))]}
        onChange={(id) => set("Set microphone", { mic: id === "none" ? null : id })}
        className="flex-1"
      />
    </Row>
  );
});

/** A number that the selected zones share. */
const ZoneField = memo(function ZoneField({
  id,
  label,
  width,
  value,
  mixed,
}: {
  id: NumberField;
  label: string;
  width: number;
  value: number;
  mixed: boolean;
}) {
  const spec = FIELDS[id];
  const [low, high] = LIMITS[id] ?? [0, 127];
  const within = (x: number) => Math.min(high, Math.max(low, x));
  const change = (next: (x: number) => number, gesture: string | null) => {
    const { zoneIds } = useView.getState();
    session.commit(
      changeZones(zoneIds, spec.what, (z) => ({ ...z, [id]: within(next(z[id])) })),
      gesture,
    );
  };
  return (
    <Well
      label={label}
      text={spec.format(value)}
      mixed={mixed}
      width={width}
      onType={(text) => {
        const typed = spec.parse(text);
        if (typed === null) return false;
        change(() => typed, null);
        return true;
      }}
      onStep={(steps) => change((x) => x + steps * spec.step, "step")}
    />
  );
});

const ZoneWave = memo(function ZoneWave({ sample, start, end }: Pick<Zone, "sample" | "start" | "end">) {
  const wave = useWave(sample);
  const data = wave.data;
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      if (data) drawWave(pen, width, height, { from: 0, to: data.peaks.frames }, data, colours, fillGain(data));
    },
    [data],
  );
  return (
    <button
      type="button"
      aria-label="Hear the sample"
      title="Hear the sample as it was recorded"
      onClick={() => void audition(sample, start, end)}
      className="mb-3 block w-full"
    >
      <Drawing draw={draw} label="Waveform of the sample" className="h-16 w-full" />
    </button>
  );
});

/** The selected zones, to pick one of. */
const RepeatList = memo(
  function RepeatList({ zones, nameOf }: { zones: readonly Zone[]; nameOf: (zone: Zone) => string }) {
    return (
      <ul className="mb-3 max-h-28 overflow-y-auto" aria-label="Selected zones">
        {zones.slice(0, 60).map((zone) => (
          <li key={zone.id}>
            <button
              type="button"
              onClick={() => setView({ zoneIds: new Set([zone.id]) })}
              className="num flex w-full justify-between gap-2 rounded-[2px] px-1 text-left text-[12px] hover:bg-well"
            >
              <span className="truncate">{nameOf(zone)}</span>
              <span className="shrink-0 text-ink-soft">repeat {zone.repeat}</span>
            </button>
          </li>
        ))}
      </ul>
    );
  },
  // While they are dragged they are the same zones.
  (a, b) =>
    a.zones.length === b.zones.length &&
    a.zones.every(
      (z, i) => z.id === b.zones[i]?.id && z.repeat === b.zones[i].repeat && z.sample === b.zones[i].sample,
    ),
);
