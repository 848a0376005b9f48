import { useNavigate } from "react-router";
import { byIdentity, listNotes, listZones, type Zone } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { Empty, Station } from "../../shell/Station";
import { useCommands } from "../../state/commands";
import { PLACE_DEFAULTS, placeAll } from "../../state/placing";
import { useInstrument, useInstrumentParts } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { TabPanel, TabRow, Tabs } from "../../widgets/Tabs";
import { fitKeys, MAP_COMMANDS } from "./map-commands";
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

/** What is mapped, in figures. */
function Facts() {
  const zones = useInstrument((i) => listZones(i).length);
  const { roots, layers, repeats } = useInstrumentParts((i) => factsOf(listZones(i)));
  const whole = `${plural(zones, "zone")} · ${plural(roots, "root")} · ${plural(layers, "velocity layer")} × ${plural(repeats, "repeat")}`;
  return <span title={whole}>{whole}</span>;
}

const PANELS = [
  { id: "field", label: "Field" },
  { id: "list", label: "List" },
] as const;

/** Map: which sample answers which key, at which velocity. */
export function MapStation() {
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
            {mapped && <SpreadMenu />}
            <Button
              look="primary"
              disabled={notes.length === 0}
              hint="Places every sample by its pitch, level and order, in place of what is mapped"
              onClick={() => placeAll(notes, PLACE_DEFAULTS)}
            >
              Place {plural(notes.length, "sample")}
            </Button>
          </>
        }
        inspector={<ZoneInspector />}
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
                  {plural(notes.length, "sample waits", "samples wait")}. Placing sorts them into notes, velocity layers
                  and repeats by what was measured.
                </p>
                <Button look="primary" onClick={() => placeAll(notes, PLACE_DEFAULTS)}>
                  Place samples
                </Button>
              </>
            ) : (
              <>
                <p className="mb-4">Cut a take into samples first.</p>
                <Button look="primary" onClick={() => void navigate("/cut")}>
                  Go to Cut
                </Button>
              </>
            )}
          </Empty>
        )}
      </Station>
    </Tabs>
  );
}
