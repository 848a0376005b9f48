import type { SampledZone, Zone } from "../../../core/instrument";
import { Button } from "../../widgets/Button";
import { unheardParts } from "./unheard-parts";

/** Says what of the loops is never heard, or not as it seems, each with its repair. */
export function Unheard({
  zone,
  change,
}: {
  zone: SampledZone;
  change: (what: string, fn: (zone: Zone) => Zone) => void;
}) {
  return unheardParts(zone).map(({ id, text, repair }) => (
    <div key={id} className="mt-1 text-ochre text-s">
      <p>{text}</p>
      <Button look="warning" className="mt-1 h-6" onClick={() => change(repair.label, repair.change)}>
        {repair.label}
      </Button>
    </div>
  ));
}
