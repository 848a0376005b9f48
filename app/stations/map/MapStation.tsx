import { useNavigate } from "react-router";
import { listNotes, listZones } from "../../../core/instrument";
import { Empty, Station } from "../../shell/Station";
import { settleAxis } from "../../state/key-axis";
import { PLACE_DEFAULTS, placeAll } from "../../state/placing";
import { useInstrument } from "../../state/use-session";
import { setView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { plural } from "../../widgets/plural";
import { SpreadMenu } from "./SpreadMenu";
import { ZoneField } from "./ZoneField";
import { ZoneInspector } from "./ZoneInspector";

/** Map: which sample answers which key, at which velocity. */
export function MapStation() {
  const instrument = useInstrument();
  const notes = listNotes(instrument);
  const navigate = useNavigate();
  const zones = listZones(instrument);
  const roots = new Set(zones.map((z) => z.root)).size;
  const layers = new Set(zones.map((z) => `${z.velLow}-${z.velHigh}`)).size;
  const repeats = Math.max(0, ...zones.map((z) => z.repeat));
  const fit = () => {
    const low = Math.min(...zones.map((z) => z.keyLow));
    const high = Math.max(...zones.map((z) => z.keyHigh));
    setView(settleAxis(low - 2, high - low + 5));
  };
  return (
    <Station
      title="Keys × velocity"
      facts={
        zones.length > 0
          ? `${plural(zones.length, "zone")} · ${plural(roots, "root")} · ${plural(layers, "velocity layer")} × ${plural(repeats, "repeat")}`
          : null
      }
      actions={
        <>
          {zones.length > 0 && (
            <Button hint="Shows all mapped keys" onClick={fit}>
              Fit
            </Button>
          )}
          {zones.length > 0 && <SpreadMenu zones={zones} />}
          <Button
            look="primary"
            disabled={notes.length === 0}
            hint="Places every sample by its pitch, level and order, in place of what is mapped"
            onClick={() => placeAll(notes, PLACE_DEFAULTS)}
          >
            Place {notes.length} samples
          </Button>
        </>
      }
      inspector={<ZoneInspector />}
    >
      {zones.length > 0 ? (
        <ZoneField zones={zones} />
      ) : (
        <Empty title="No key has a sound yet">
          {notes.length > 0 ? (
            <>
              <p className="mb-4">
                {notes.length} samples wait. Placing sorts them into notes, velocity layers and repeats by what was
                measured.
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
  );
}
