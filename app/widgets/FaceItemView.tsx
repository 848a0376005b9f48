import { type FaceItem, findParam, type Instrument } from "../../core/instrument";
import { formatValue, travelOf, valueAt } from "../../core/params";
import { Dial } from "./Dial";

interface FaceItemViewProps {
  readonly item: FaceItem;
  readonly instrument: Instrument;
  /** Sets the bound parameter. */
  readonly set: (address: string, value: number, gesture: string) => void;
  /** Whether it can be operated; while the face is edited it can't. */
  readonly live: boolean;
}

/** What an item of a face says: its label, and the value of what it moves. */
export function faceText(item: FaceItem, instrument: Instrument): string {
  if (item.kind === "label") return item.text;
  const found = item.bind === null ? null : findParam(instrument, item.bind);
  const value = found?.spec.type === "number" ? formatValue(found.spec, Number(found.value)) : "not bound";
  return `${item.text || found?.label || "Dial"} ${value}`;
}

/** One thing of a face as whoever plays the instrument sees it: the same in the editor and in the player. */
export function FaceItemView({ item, instrument, set, live }: FaceItemViewProps) {
  if (item.kind === "label") {
    const size = Math.min(40, item.height * 0.72);
    return (
      <div
        className="face-label"
        style={{
          fontSize: size,
          lineHeight: `${item.height}px`,
          fontWeight: size > 20 ? 650 : 400,
          whiteSpace: "nowrap",
          overflow: "hidden",
        }}
      >
        {item.text}
      </div>
    );
  }
  const found = item.bind === null ? null : findParam(instrument, item.bind);
  const spec = found?.spec.type === "number" ? found.spec : null;
  const value = Number(found?.value ?? 0);
  const label = item.text || found?.label || "Dial";
  const size = Math.max(28, Math.min(item.width, item.height - 40));
  return (
    <div style={{ display: "flex", flexDirection: "column", alignItems: "center", height: "100%" }}>
      <Dial
        label={label}
        size={size}
        disabled={!live || spec === null}
        faded={spec === null}
        travel={spec ? travelOf(spec, value) : 0}
        text={spec ? formatValue(spec, value) : "not bound"}
        set={(travel, gesture) => spec && found && set(found.address, valueAt(spec, travel), gesture)}
        reset={() => spec && found && set(found.address, spec.default, "reset")}
      />
      <span
        style={{
          fontWeight: 600,
          maxWidth: "100%",
          overflow: "hidden",
          textOverflow: "ellipsis",
          whiteSpace: "nowrap",
        }}
      >
        {label}
      </span>
      <span
        style={{ fontFamily: "var(--font-number)", fontSize: 12, color: spec ? "var(--ink-soft)" : "var(--ochre)" }}
      >
        {spec ? formatValue(spec, value) : "not bound"}
      </span>
    </div>
  );
}
