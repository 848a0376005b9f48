import { memo, useEffect, useMemo } from "react";
import { useNavigate } from "react-router";
import { useStore } from "zustand";
import { byIdentity, listNotes, listUnplayed, listZones, type Zone } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { Empty, Station } from "../../shell/Station";
import { useCommands } from "../../state/commands";
import { mapCheck } from "../../state/map-check";
import { proposing } from "../../state/proposing";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { TabPanel, TabRow, Tabs } from "../../widgets/Tabs";
import { useCalm } from "../../widgets/use-calm";
import { bringIn } from "./bring-in";
import { MapCheck } from "./check/MapCheck";
import { fitKeys, MAP_COMMANDS } from "./map-commands";
import { Outline } from "./outline/Outline";
import { PlacingStation } from "./placing/PlacingStation";
import { Pool } from "./pool/Pool";
import { SelectMenu } from "./SelectMenu";
import { SpreadMenu } from "./SpreadMenu";
import { ZoneField } from "./ZoneField";
import { ZoneInspector } from "./ZoneInspector";
import { ZoneList } from "./ZoneList";

const factsOf = byIdentity((zones: readonly Zone[]) => {
  const roots = new Uint8Array(128);
  const layers = new Uint8Array(128 * 128);
  let repeats = 0;
  for (let i = 0; i < zones.length; i++) {
    const { root, velLow, velHigh, repeat } = zones[i] as Zone;
    roots[root] = 1;
    layers[velLow * 128 + velHigh] = 1;
    if (repeat > repeats) repeats = repeat;
  }
  return { roots: count(roots), layers: count(layers), repeats };
});

function count(marks: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < marks.length; i++) sum += marks[i] as number;
  return sum;
}

/** Milliseconds between two counts while something is dragged. */
const CALM = 120;

/** What is mapped, in figures. */
function Facts() {
  const zones = useCalm(useInstrument(listZones), CALM);
  const { roots, layers, repeats } = factsOf(zones);
  const whole = `${plural(zones.length, "zone")} · ${plural(roots, "root")} · ${plural(layers, "velocity layer")} × ${plural(repeats, "repeat")}`;
  return <span title={whole}>{whole}</span>;
}

const PANELS = [
  { id: "field", label: "Field" },
  { id: "list", label: "List" },
] as const;

/** Map: which sample answers which key, at which velocity. */
export function MapStation() {
  const proposal = useStore(proposing.store, (s) => s.proposal);
  return proposal ? <PlacingStation proposal={proposal} /> : <MappedStation />;
}

/** A count where there is little room: of thousands only those. */
const shortCount = (count: number): string => (count < 1000 ? String(count) : `${Math.floor(count / 1000)}k`);

/** What stands beside the field: what is chosen or how all is arranged, and the pool. */
function MapSide() {
  const shown = useView((v) => v.mapSide);
  const count = useInstrument((i) => listNotes(i).length);
  const doubts = useStore(mapCheck.store, (s) => s.findings?.length ?? 0);
  useEffect(() => mapCheck.look(false), []);
  return (
    <Tabs shown={shown} onShow={(mapSide) => setView({ mapSide })}>
      <TabRow
        label="Beside the field"
        className="h-12! items-stretch border-rule border-b px-1"
        tabs={[
          { id: "zones", label: "Zones" },
          { id: "outline", label: "Outline" },
          { id: "pool", label: "Pool", count: count > 0 ? shortCount(count) : null },
          { id: "check", label: "Check", count: doubts > 0 ? shortCount(doubts) : null },
        ]}
      />
      <TabPanel id="zones">
        <div className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden px-4 pt-3.5 pb-40">
          <ZoneInspector />
        </div>
      </TabPanel>
      <TabPanel id="outline">
        <Outline />
      </TabPanel>
      <TabPanel id="check">
        <MapCheck />
      </TabPanel>
      <TabPanel id="pool">
        <Pool />
      </TabPanel>
    </Tabs>
  );
}

/** Proposes places for what is on no key yet: what is on the keys already isn't placed once more as long as something waits. */
function PlaceButton() {
  const instrument = useCalm(
    useInstrument((i) => i),
    CALM,
  );
  const waits = useMemo(() => listUnplayed(instrument).length, [instrument]);
  return <Place waits={waits} all={listNotes(instrument).length} />;
}

const Place = memo(function Place({ waits, all }: { waits: number; all: number }) {
  const propose = () => {
    const { instrument } = session;
    if (instrument) void proposing.propose(waits > 0 ? listUnplayed(instrument) : listNotes(instrument));
  };
  return (
    <Button
      look={waits > 0 ? "primary" : "plain"}
      disabled={all === 0}
      hint={
        waits > 0
          ? "Proposes a place for every sample that is on no key yet, by its name, pitch, level and order; nothing is changed before it is seen"
          : "Proposes places for all samples anew, by their names, pitches, levels and order; nothing is changed before it is seen"
      }
      onClick={propose}
    >
      Place {plural(waits > 0 ? waits : all, "sample")}
    </Button>
  );
});

function MappedStation() {
  const notes = useInstrument(listNotes);
  const navigate = useNavigate();
  const mapped = useInstrument((i) => listZones(i).length > 0);
  const panel = useView((v) => v.mapPanel);
  useCommands("Map", MAP_COMMANDS);
  return (
    <Tabs shown={panel} onShow={(id) => setView({ mapPanel: id })}>
      <Station
        title="Keys × velocity"
        facts={mapped && <Facts />}
        actions={
          <>
            {mapped && <TabRow label="Show the zones as" tabs={PANELS} className="mr-2" />}
            {mapped && (
              <Button hint="Shows all mapped keys" onClick={fitKeys}>
                Fit
              </Button>
            )}
            {mapped && <SelectMenu />}
            {mapped && <SpreadMenu />}
            <PlaceButton />
          </>
        }
        filling
        inspector={<MapSide />}
      >
        {mapped ? (
          <>
            <TabPanel id="field">
              <ZoneField />
            </TabPanel>
            <TabPanel id="list">
              <ZoneList />
            </TabPanel>
          </>
        ) : (
          <Empty title="No key has a sound yet">
            {notes.length > 0 ? (
              <>
                <p className="mb-4">
                  {plural(notes.length, "sample waits", "samples wait")}. They are sorted into notes, velocity layers
                  and repeats by their names, their files and what was measured.
                </p>
                <Button look="primary" onClick={() => void proposing.propose(notes)}>
                  Place samples
                </Button>
              </>
            ) : (
              <>
                <p className="mb-4">
                  Drop finished samples or folders of them here: their names, their files and their sound say where they
                  belong. Or cut a take into samples.
                </p>
                <div className="flex flex-wrap justify-center gap-2">
                  <Button look="primary" onClick={() => void bringIn(navigate)}>
                    Import samples
                  </Button>
                  <Button onClick={() => void bringIn(navigate, true)}>Import a folder</Button>
                  <Button onClick={() => void navigate("/cut")}>Go to Cut</Button>
                </div>
              </>
            )}
          </Empty>
        )}
      </Station>
    </Tabs>
  );
}
