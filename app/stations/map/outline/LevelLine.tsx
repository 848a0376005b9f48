import { memo } from "react";
import { setParam } from "../../../../core/instrument";
import { formatValue, type NumberParam, travelOf, valueAt } from "../../../../core/params";
import { session } from "../../../state/session";
import { typedValue } from "../../../state/typed-value";
import { useParam } from "../../../state/use-session";
import { Scale } from "../../../widgets/Scale";
import { Well } from "../../../widgets/Well";

/** Level and pan of a layer, a group or a microphone on one line; `at` is the address of the unit that has both. */
export const LevelLine = memo(function LevelLine({ at, name }: { at: string; name: string }) {
  return (
    <div className="flex items-center gap-1.5 pb-1 pl-7">
      <Fader address={`${at}/level`} label={`Level: ${name}`} width={70} scaled />
      <Fader address={`${at}/pan`} label={`Pan: ${name}`} width={58} />
    </div>
  );
});

/** A value in a well, with a scale where there is room for one. */
function Fader(given: { address: string; label: string; width: number; scaled?: boolean }) {
  const { address, label, width, scaled } = given;
  const found = useParam(address);
  if (found?.spec.type !== "number") return null;
  const spec: NumberParam = found.spec;
  const value = Number(found.value);
  const text = formatValue(spec, value);
  const set = (next: number, gesture: string | null) =>
    session.instrument && session.commit(setParam(session.instrument, address, next), gesture);
  return (
    <>
      {scaled && (
        <Scale
          label={label}
          travel={travelOf(spec, value)}
          text={text}
          set={(travel, gesture) => set(valueAt(spec, travel), gesture)}
          reset={() => set(spec.default, null)}
        />
      )}
      <Well
        label={`${label} value`}
        text={text}
        width={width}
        align="right"
        onType={(typed) => {
          const parsed = typedValue(spec, typed, label);
          if (parsed !== null) set(Number(parsed), null);
          return parsed !== null;
        }}
        onStep={(steps) => set(valueAt(spec, travelOf(spec, value) + steps * 0.01), "step")}
      />
    </>
  );
}
