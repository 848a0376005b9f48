import type { SampledZone, Zone } from "../../../core/instrument";
import { formatNumber, parseNumber } from "../../../core/params";
import { reasonOf } from "../../basis/reason-of";
import { keepEven } from "../../state/loops";
import { tell } from "../../state/notices";
import { Row } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";

interface EvenRowProps {
  readonly zone: SampledZone;
  readonly period: number | null;
  /** Decibels by which the level still moves as it goes round; null while nobody knows. */
  readonly pulse: number | null;
  readonly change: (what: string, fn: (zone: Zone) => Zone, gesture?: string | null) => void;
}

/** Keeps the loop of a sound that dies away even, wholly or in part, and says what is left of its pulse. */
export function EvenRow({ zone, period, pulse, change }: EvenRowProps) {
  const flat = zone.loop?.flat ?? null;
  const set = (amount: number, gesture: string | null = null) =>
    change(
      "Set level out",
      (z) =>
        z.loop?.flat
          ? { ...z, loop: { ...z.loop, flat: { ...z.loop.flat, amount: Math.min(1, Math.max(0, amount)) } } }
          : z,
      gesture,
    );
  const toggle = (on: boolean) =>
    void keepEven(zone, on, period).catch((error: unknown) =>
      tell("error", `The level can’t be measured: ${reasonOf(error)}.`),
    );
  return (
    <Row
      label="Level out"
      help="Evens out the level inside the loop; less than 100 % leaves some of the decay to an envelope"
    >
      <Toggle label="Level out the loop" hidden on={flat !== null} onChange={toggle} />
      {flat ? (
        <Well
          label="Amount of levelling out"
          text={formatNumber("percent", flat.amount)}
          width={52}
          align="right"
          onType={(text) => {
            const amount = parseNumber("percent", text);
            if (amount === null) return false;
            set(amount);
            return true;
          }}
          onStep={(steps) => set(flat.amount + steps / 100, "step")}
        />
      ) : null}
      <span className="num whitespace-nowrap text-[11px] text-ink-soft" title="Level swing of the loop">
        {pulse === null ? "" : `±${(pulse / 2).toFixed(1)} dB`}
      </span>
    </Row>
  );
}
