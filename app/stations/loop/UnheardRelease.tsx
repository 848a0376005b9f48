import { type SampledZone, setParam } from "../../../core/instrument";
import { formatNumber } from "../../../core/params";
import { session } from "../../state/session";
import { useInstrument, useParam } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { releaseNeeded } from "./release-needed";

/** Says that a release loop can't be heard because the sound is gone before it, and lengthens the release. */
export function UnheardRelease({ zone, rate }: { zone: SampledZone; rate: number }) {
  const layer = useInstrument(
    (i) => i.layers.find((l) => l.groups.some((g) => g.zones.some((z) => z.id === zone.id)))?.id,
  );
  const address = `layers/${layer}/amp/release`;
  const release = Number(useParam(address)?.value ?? 0);
  const needed = releaseNeeded(zone, rate);
  if (needed === null || release >= needed) return null;
  const text = formatNumber("seconds", needed);
  return (
    <div className="mt-1 text-ochre text-s">
      <p>
        The release is {formatNumber("seconds", release)}; the release loop was played once {text} after the key is go:
        hardly any of it is heard.
      </p>
      <Button
        look="warning"
        className="mt-1 h-6"
        onClick={() => session.instrument && session.commit(setParam(session.instrument, address, needed))}
      >
        Lengthen the release to {text}
      </Button>
    </div>
  );
}
