import { setParam, settingOf, type Unit } from "../../core/instrument";
import { formatNumber, type NumberParam, travelOf, valueAt } from "../../core/params";
import { unitSpec } from "../../core/units";
import { session } from "../state/session";
import { typedValue } from "../state/typed-value";
import { Choice } from "../widgets/Choice";
import { Well } from "../widgets/Well";
import { BANDS, bandsOf, hasGain } from "./bands";

/** An equaliser's bands, a line each: what it does, where, how much, how narrow. */
export function BandTable({ address, unit }: { address: string; unit: Unit }) {
  const bands = bandsOf(unit);
  const specOf = (id: string) => unitSpec("equaliser").params.find((p) => p.id === id);
  const set = (id: string, value: number | string, gesture: string | null) =>
    session.instrument && session.commit(setParam(session.instrument, `${address}/${id}`, value), gesture);
  const well = (id: string, label: string, width: number) => {
    const spec = specOf(id) as NumberParam;
    const value = Number(settingOf(unit, id));
    return (
      <Well
        label={label}
        text={formatNumber(spec.unit, value)}
        width={width}
        align="right"
        onType={(text) => {
          const parsed = typedValue(spec, text, label);
          if (parsed !== null) set(id, parsed, null);
          return parsed !== null;
        }}
        onStep={(n) => set(id, valueAt(spec, travelOf(spec, value) + n / 100), "step")}
      />
    );
  };
  return (
    <div className="grid grid-cols-[16px_minmax(84px,1fr)_76px_72px_64px] items-center gap-x-1.5 gap-y-0.5">
      {["", "type", "freq", "gain", "Q"].map((title) => (
        <span key={title} className="text-ink-soft text-s">
          {title}
        </span>
      ))}
      {BANDS.map((n) => {
        const kind = specOf(`kind${n}`);
        const band = bands[n - 1];
        if (kind?.type !== "choice" || !band) return null;
        return [
          <span key={`${n}`} className="num text-ink-soft text-s">
            {n}
          </span>,
          <Choice
            key={`${n} kind`}
            label={`Band ${n}`}
            value={band.kind}
            options={kind.choices}
            onChange={(id) => set(`kind${n}`, id, null)}
          />,
          <span key={`${n} at`}>{band.kind !== "off" && well(`frequency${n}`, `Frequency of band ${n}`, 76)}</span>,
          <span key={`${n} by`}>{hasGain(band.kind) && well(`gain${n}`, `Gain of band ${n}`, 72)}</span>,
          <span key={`${n} width`}>{band.kind !== "off" && well(`q${n}`, `Q of band ${n}`, 64)}</span>,
        ];
      })}
    </div>
  );
}
