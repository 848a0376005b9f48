import { memo } from "react";
import { changeZones, listZones, type Zone, zoneLimits } from "../../../core/instrument";
import { partZones } from "../../state/selected-zones";
import { session } from "../../state/session";
import { useView } from "../../state/view";
import { Row } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { BULK_HINT, FIELDS, type Field, type FieldRow, typeField } from "./zone-fields";

const chosenZones = (): readonly Zone[] => {
  const { instrument } = session;
  return instrument ? partZones(listZones(instrument), useView.getState().zoneIds).chosen : [];
};

/** A line of the inspector with one number or a range of two. */
export const NumberRow = memo(function NumberRow({
  row: { label, help, fields },
  value,
  mixed,
  otherValue,
  otherMixed,
  aside,
}: {
  row: FieldRow;
  value: number;
  mixed: boolean;
  otherValue: number;
  otherMixed: boolean;
  aside: string;
}) {
  const [one, other] = fields;
  return (
    <Row label={label} help={help}>
      <ZoneField {...one} value={value} mixed={mixed} />
      {other && (
        <>
          {" – "}
          <ZoneField {...other} value={otherValue} mixed={otherMixed} />
        </>
      )}
      {aside && <span className="num text-ink-faint text-s">{aside}</span>}
    </Row>
  );
});

/** A number that the selected zones share. */
const ZoneField = memo(function ZoneField({
  id,
  label,
  width,
  value,
  mixed,
}: Field & { value: number; mixed: boolean }) {
  const spec = FIELDS[id];
  const many = useView((v) => v.zoneIds.size > 1);
  const { min, max } = zoneLimits(id);
  const within = (x: number) => Math.min(max, Math.max(min, x));
  const change = (next: (x: number) => number, gesture: string | null) => {
    const { zoneIds } = useView.getState();
    session.commit(
      changeZones(zoneIds, spec.what, (z) => ({ ...z, [id]: within(next(z[id])) })),
      gesture,
    );
  };
  return (
    <Well
      label={label}
      text={spec.format(value)}
      mixed={mixed}
      width={width}
      hint={many ? BULK_HINT : undefined}
      onType={(text) => typeField(chosenZones(), id, text)}
      onStep={(steps) => change((x) => x + steps * spec.step, "step")}
    />
  );
});
