import { type Anchor, changeFaceItems, type FaceItem, type Instrument } from "../../../core/instrument";
import { parseNumber } from "../../../core/params";
import { chosenIds, commitFace } from "../../state/face-selection";
import { useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row, Section } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";

const ANCHOR_NAMES: Readonly<Record<"x" | "y", Readonly<Record<Anchor, string>>>> = {
  x: {
    start: "To the left",
    middle: "To the middle",
    end: "To the right",
    both: "To both sides",
    scale: "In proportion",
  },
  y: {
    start: "To the top",
    middle: "To the middle",
    end: "To the bottom",
    both: "To both ends",
    scale: "In proportion",
  },
};

/** Where the chosen items stand, on which page, and what becomes of them on other screens. */
export function PlaceSection({ instrument, item }: { instrument: Instrument; item: FaceItem }) {
  const screen = useView((v) => v.faceScreen);
  const all = (name: string, fields: Partial<FaceItem>, gesture: string | null = null) =>
    commitFace(
      changeFaceItems(new Set(chosenIds()), name, () => fields),
      gesture,
    );
  const number = (id: "x" | "y" | "width" | "height", label: string) => {
    const set = (value: number, gesture: string | null) => all(`Set ${label.toLowerCase()}`, { [id]: value }, gesture);
    return (
      <Row label={label}>
        <Well
          label={label}
          text={`${Math.round(item[id])} px`}
          width={72}
          align="right"
          onType={(text) => {
            const value = parseNumber("count", text.replace(/\s*px$/i, ""));
            if (value !== null) set(value, null);
            return value !== null;
          }}
          onStep={(steps) => set(item[id] + steps, "step")}
        />
      </Row>
    );
  };
  const turned = (degrees: number): number => ((((degrees + 180) % 360) + 360) % 360) - 180;
  const anchor = (id: "anchorX" | "anchorY", way: "x" | "y", label: string) => (
    <Row
      label={label}
      help="To what it keeps its distance where the page becomes wider or taller, as on another screen"
    >
      <Choice
        label={way === "x" ? "Keeps across" : "Keeps down"}
        value={item[id]}
        options={(Object.keys(ANCHOR_NAMES[way]) as Anchor[]).map((a) => ({ id: a, label: ANCHOR_NAMES[way][a] }))}
        onChange={(value) => all("Set what it keeps to", { [id]: value as Anchor })}
        className="flex-1"
      />
    </Row>
  );
  return (
    <Section title="Place">
      {number("x", "Left")}
      {number("y", "Top")}
      {number("width", "Width")}
      {number("height", "Height")}
      <Row label="Turned">
        <Well
          label="Turned"
          text={`${Math.round(item.turn)}°`}
          width={72}
          align="right"
          onType={(text) => {
            const value = parseNumber("count", text.replace(/\s*°$/, ""));
            if (value !== null) all("Turn", { turn: turned(value) });
            return value !== null;
          }}
          onStep={(steps) => all("Turn", { turn: turned(item.turn + steps) }, "step")}
        />
      </Row>
      <Row label="Page">
        <Choice
          label="Page of the item"
          value={item.page ?? "*"}
          options={[
            ...instrument.face.pages.map(({ id, name }) => ({ id, label: name })),
            { id: "*", label: "Every page" },
          ]}
          onChange={(id) => all("Set page", { page: id === "*" ? null : id })}
          className="flex-1"
        />
      </Row>
      {anchor("anchorX", "x", "Across")}
      {anchor("anchorY", "y", "Down")}
      {screen !== null && item[screen] !== null && (
        <Button
          hint="It stands where it was put by hand on this screen; its anchors have it again then"
          onClick={() => all("Let anchors have it", { [screen]: null })}
        >
          As its anchors have it
        </Button>
      )}
      <Row label="Locked">
        <Toggle
          label="Locked"
          hidden
          on={item.locked}
          onChange={(locked) => all(locked ? "Lock" : "Unlock", { locked })}
        />
      </Row>
      <Row label="Hidden">
        <Toggle
          label="Hidden"
          hidden
          on={item.hidden}
          onChange={(hidden) => all(hidden ? "Hide" : "Show", { hidden })}
        />
      </Row>
    </Section>
  );
}
