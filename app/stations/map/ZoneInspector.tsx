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
  type Zone,
} from "../../../core/instrument";
import { formatNumber, parseNumber } from "../../../core/params";
import { audition, useWave } from "../../state/audio-queries";
import { partZones } from "../../state/selected-zones";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { type Draw, Drawing } from "../../widgets/Drawing";
import { Row, Section } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { drawWave, fillGain } from "../../widgets/WaveView";
import { Well } from "../../widgets/Well";
import { GroupSettings, Structure } from "./GroupInspector";

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
  const field = (id: NumberField, label: string, width = 58) => (
    <ZoneField
      key={id}
      id={id}
      label={label}
      width={width}
      value={first[id]}
      mixed={zones.some((z) => z[id] !== first[id])}
    />
  );
  return (
    <>
      <h2 className="truncate font-display font-semibold text-l" title={sample?.name}>
        {zones.length === 1 ? (sample?.name ?? "a missing sample") : `${zones.length} zones`}
      </h2>
      <p className="mb-2 text-ink-soft text-s">
        group {group?.name} · layer {layer?.name}
      </p>
      {zones.length === 1 ? (
        <ZoneWave zone={first} />
      ) : (
        <RepeatList zones={zones} nameOf={(z) => names.get(z.sample)?.name ?? "a missing sample"} />
      )}
      <Section title="Answers to">
        <Row label="Keys">
          {field("keyLow", "Lowest key")} – {field("keyHigh", "Highest key")}
        </Row>
        <Row label="Key fades" help="Keys over which it fades in and out, by equal power">
          {field("keyFadeLow", "Lower key fade")} – {field("keyFadeHigh", "Upper key fade")}
        </Row>
        <Row label="Root" help="The key at which the sample sounds as it was recorded">
          {field("root", "Root")} <span className="num text-ink-faint text-s">{first.root}</span>
        </Row>
        <Row label="Velocity">
          {field("velLow", "Lowest velocity")} – {field("velHigh", "Highest velocity")}
        </Row>
        <Row label="Vel. fades" help="Velocities over which it fades in and out, by equal power">
          {field("velFadeLow", "Lower velocity fade")} – {field("velFadeHigh", "Upper velocity fade")}
        </Row>
        <Row label="Repeat" help="Its turn among the round robins of the same key and velocity">
          {field("repeat", "Repeat")}
        </Row>
      </Section>
      <Section title="Sounds as">
        <Row label="Tuning" help="Correction in cents, so that the root is in tune">
          {field("tune", "Tuning", 82)}
          {sample?.pitch != null && zones.length === 1 && (
            <span className="num text-ink-faint text-s" title="What was measured, against the root">
              was {((sample.pitch - first.root) * 100).toFixed(1)}
            </span>
          )}
        </Row>
        <Row label="Tracking" help="How far the pitch follows the keys: 100 % fully, 0 % not at all">
          {field("track", "Key tracking", 82)}
        </Row>
        <Row label="Level">{field("gain", "Zone level", 82)}</Row>
        <Row label="Pan">{field("pan", "Zone pan", 82)}</Row>
        <Row label="Plays">
          <Toggle
            label="Reversed"
            on={first.reverse}
            onChange={(reverse) => session.commit(changeZones(zoneIds, "Set direction", (z) => ({ ...z, reverse })))}
          />
        </Row>
        <Row label="Let go" help="A one-shot plays on to its end when the key is let go">
          <Toggle
            label="One-shot"
            on={first.oneShot}
            onChange={(oneShot) => session.commit(changeZones(zoneIds, "Set one-shot", (z) => ({ ...z, oneShot })))}
          />
        </Row>
        {mics.length > 0 && (
          <Row label="Mic" help="The microphone that recorded it">
            <Choice
              label="Microphone"
              value={first.mic ?? "none"}
              options={[{ id: "none", label: "none" }, ...mics.map((u) => ({ id: u.id, label: u.name }))]}
              onChange={(id) =>
                session.commit(
                  changeZones(zoneIds, "Set microphone", (z) => ({ ...z, mic: id === "none" ? null : id })),
                )
              }
              className="flex-1"
            />
          </Row>
        )}
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
          <Row label="Belongs to">
            <Choice
              label="Group"
              value={`${layer.id}/${group.id}`}
              options={layers.flatMap((l) =>
                l.groups.map((g) => ({ id: `${l.id}/${g.id}`, label: `${l.name}: ${g.name}` })),
              )}
              onChange={(id) => {
                const [layerId = "", groupId = ""] = id.split("/");
                session.commit(moveZones(zoneIds, layerId, groupId));
              }}
              className="flex-1"
            />
          </Row>
          <details>
            <summary className="cursor-pointer py-1">What the group’s zones share</summary>
            <GroupSettings layer={layer} group={group} />
          </details>
        </Section>
      )}
      <Button
        onClick={() => {
          session.commit(removeZones(zoneIds));
          setView({ zoneIds: new Set() });
        }}
      >
        <Trash2 size={13} aria-hidden /> Remove {zones.length === 1 ? "zone" : `${zones.length} zones`}
      </Button>
    </>
  );
}

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

function ZoneWave({ zone }: { zone: Zone }) {
  const wave = useWave(zone.sample);
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
      onClick={() => void audition(zone.sample, zone.start, zone.end)}
      className="mb-3 block w-full"
    >
      <Drawing draw={draw} label="Waveform of the sample" className="h-16 w-full" />
    </button>
  );
}

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
}
