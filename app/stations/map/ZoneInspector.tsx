import { Trash2 } from "lucide-react";
import { memo, useMemo } from "react";
import { useStore } from "zustand";
import { type Instrument, listZones, removeZones } from "../../../core/instrument";
import { formatNumber, plural } from "../../../core/params";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { MenuButton } from "../../widgets/CommandMenu";
import { Fold, Row, Section } from "../../widgets/ParamControl";
import { useCalm } from "../../widgets/use-calm";
import { GroupSettings } from "./GroupSettings";
import { InheritedRows } from "./InheritedRows";
import { ZONE_COMMANDS } from "./map-commands";
import { fieldHeld } from "./use-field-drag";
import { GroupRow, MicRow, Switches } from "./ZoneChoices";
import { NumberRow } from "./ZoneNumbers";
import { RepeatList, ZoneWave } from "./ZonePictures";
import { ANSWERS, type FieldRow, type NumberField, SOUNDS } from "./zone-fields";
import { nameOfZone, samplesBySha } from "./zone-names";

/** How zones are chosen, and where everything else of the map is. */
function NothingChosen() {
  return (
    <>
      <h2 className="mb-2 font-display font-semibold text-l">No zone is selected</h2>
      <p className="mb-2 text-ink-soft">
        Click a zone to hear it and see what it answers to; drag it or its edges. Drag over the ground, or click the
        name of a key or velocity, to select several; Shift adds. The wheel scrolls, with Ctrl or Alt it zooms.
      </p>
      <p className="mb-3 text-ink-soft">
        Groups, layers, sets of layers and microphones stand in the outline: there they are soloed, muted, locked,
        levelled and moved.
      </p>
      <Button onClick={() => setView({ mapSide: "outline" })}>Show the outline</Button>
    </>
  );
}

/** Milliseconds between two looks at zones that are dragged on the field. */
const CALM = 120;

/** What one or several selected zones answer to and how they sound; every field takes typed values and sets them all. */
export function ZoneInspector() {
  const layers = useInstrument((i) => i.layers);
  const held = useStore(fieldHeld, (f) => f.held);
  const calm = useCalm(layers, CALM);
  return <Inspected layers={held ? calm : layers} />;
}

const Inspected = memo(function Inspected({ layers }: Pick<Instrument, "layers">) {
  const zoneIds = useView((v) => v.zoneIds);
  const zones = useMemo(() => listZones({ layers }).filter((z) => zoneIds.has(z.id)), [layers, zoneIds]);
  const samples = useInstrument((i) => i.samples);
  const mics = useInstrument((i) => i.mics);
  const [first] = zones;
  if (!first) return <NothingChosen />;
  const names = samplesBySha(samples);
  const sample = names.get(first.sample ?? "");
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
          {zones.length === 1 ? nameOfZone(first, names) : plural(zones.length, "zone")}
        </h2>
        <MenuButton label="What can be done with it" commands={ZONE_COMMANDS} />
      </div>
      <p className="mb-2 text-ink-soft text-s">
        group {group?.name} · layer {layer?.name}
      </p>
      {zones.length === 1 ? (
        first.sample !== null && <ZoneWave sample={first.sample} start={first.start} end={first.end} />
      ) : (
        <RepeatList zones={zones} nameOf={(z) => nameOfZone(z, names)} />
      )}
      <Section title="Answers to">{ANSWERS.map(row)}</Section>
      <Section title="Sounds as">
        {SOUNDS.map(row)}
        <Switches reverse={first.reverse} oneShot={first.oneShot} />
        {mics.length > 0 && <MicRow mics={mics} mic={first.mic} />}
        {sample && (
          <Row label="Loop">
            <span className="num text-[12px]">
              {first.loop ? formatNumber("seconds", (first.loop.end - first.loop.start) / sample.rate) : "none"}
            </span>
          </Row>
        )}
      </Section>
      <InheritedRows zone={first.id} />
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
});
