import { Plus, X } from "lucide-react";
import {
  chooseVariant,
  MOST_VARIANTS,
  type SampledZone,
  variantsOf,
  withoutVariant,
  withVariant,
  type Zone,
} from "../../../core/instrument";
import { formatNumber } from "../../../core/params";
import { cx } from "../../widgets/class-names";
import { Row } from "../../widgets/ParamControl";

interface VariantsRowProps {
  readonly zone: SampledZone;
  readonly rate: number;
  readonly change: (what: string, fn: (zone: Zone) => Zone) => void;
}

const SMALL =
  "grid h-[22px] min-w-[22px] place-items-center rounded-[2px] border border-rule-strong px-1 text-s hover:bg-well";

/** Loops to choose from: the one in use is kept while another is tried, and switched to at once, under a held note too. */
export function VariantsRow({ zone, rate, change }: VariantsRowProps) {
  const variants = variantsOf(zone);
  const several = variants.length > 0;
  return (
    <Row
      label="Variants"
      help="Keeps this loop and goes on with a copy of it; digits switch, while the note sounds too"
    >
      <span className="flex flex-1 flex-wrap items-center gap-1">
        {variants.map((loop, n) => (
          <button
            // biome-ignore lint/suspicious/noArrayIndexKey: a variant is its place
            key={n}
            type="button"
            aria-label={`Variant ${n + 1}: ${formatNumber("seconds", (loop.end - loop.start) / rate)} from ${formatNumber("seconds", loop.start / rate)}`}
            aria-pressed={n === zone.variant}
            onClick={() => change("Take another variant of the loop", (z) => chooseVariant(z, n))}
            className={cx(SMALL, "num", n === zone.variant && "!border-ink !bg-ink !text-sheet")}
          >
            {n + 1}
          </button>
        ))}
        {variants.length < MOST_VARIANTS && (
          <button
            type="button"
            aria-label="Keep this loop and try another"
            title="Keeps this loop and goes on with a copy of it"
            onClick={() => change("Keep a variant of the loop", withVariant)}
            className={cx(SMALL, "text-ink-soft")}
          >
            {several ? <Plus size={12} aria-hidden /> : "Keep, and try another"}
          </button>
        )}
        {several && (
          <button
            type="button"
            aria-label="Remove this variant"
            title="Removes this variant"
            onClick={() => change("Remove a variant of the loop", withoutVariant)}
            className={cx(SMALL, "text-ink-soft")}
          >
            <X size={12} aria-hidden />
          </button>
        )}
      </span>
    </Row>
  );
}
