import { CircleGauge, Trash2, Type } from "lucide-react";
import { useState } from "react";
import {
  addFaceItem,
  changeFaceItem,
  type FaceItem,
  type Instrument,
  listParams,
  removeFaceItem,
  setParam,
} from "../../../core/instrument";
import { parseNumber, plural } from "../../../core/params";
import { Empty, Station } from "../../shell/Station";
import { useCommands } from "../../state/commands";
import { freshId } from "../../state/ids";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { WithPinned } from "../../units/WithPinned";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row, Section } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";
import { FacePage } from "./FacePage";
import { FACE_COMMANDS } from "./face-commands";

/** Face: what whoever plays the instrument sees and touches. */
export function FaceStation() {
  const instrument = useInstrument((i) => i);
  const [trying, setTrying] = useState(false);
  useCommands("Face", FACE_COMMANDS);
  const selected = useView((v) => v.faceItem);
  const { face } = instrument;
  const item = face.items.find((i) => i.id === selected) ?? null;
  const set = (address: string, value: number, gesture: string) =>
    session.commit(setParam(session.instrument ?? instrument, address, value), gesture);
  return (
    <Station
      title="Face"
      facts={`${face.width} × ${face.height} px · ${plural(face.items.length, "item")}`}
      actions={
        <>
          <Button
            disabled={trying}
            onClick={() => add(instrument, "dial")}
            hint="Places a dial; bind it to a macro or a parameter at the right"
          >
            <CircleGauge size={14} aria-hidden /> Dial
          </Button>
          <Button disabled={trying} onClick={() => add(instrument, "label")} hint="Places a line of text">
            <Type size={14} aria-hidden /> Label
          </Button>
          <Toggle label="Try it" on={trying} onChange={setTrying} />
        </>
      }
      inspector={
        item && !trying ? (
          <ItemInspector key={item.id} item={item} instrument={instrument} />
        ) : (
          <FaceHelp trying={trying} />
        )
      }
    >
      <WithPinned id="face">
        {face.items.length === 0 ? (
          <Empty title="The face is empty">
            <p className="mb-4">Place a dial for each macro to start from.</p>
            <Button look="primary" onClick={() => dialsForMacros(instrument)}>
              Place a dial for each macro
            </Button>
          </Empty>
        ) : (
          <FacePage instrument={instrument} selected={trying ? null : selected} trying={trying} set={set} />
        )}
      </WithPinned>
    </Station>
  );
}

const FaceHelp = ({ trying }: { trying: boolean }) => (
  <>
    <h2 className="mb-2 font-display font-semibold text-l">{trying ? "Trying" : "The page"}</h2>
    <p className="text-ink-soft">
      {trying
        ? "The dials work as they will for whoever plays the instrument: drag, wheel, arrow keys, double click."
        : "Drag items to move them, their lower right corner to resize. Arrow keys move by one pixel, with Shift by eight."}
    </p>
  </>
);

/** The first free place for an item, row by row. */
function freePlace(instrument: Instrument, width: number, height: number): { x: number; y: number } {
  const { face } = instrument;
  for (let y = 40; y + height <= face.height; y += 20) {
    for (let x = 40; x + width <= face.width; x += 20) {
      if (!face.items.some((i) => x < i.x + i.width && i.x < x + width && y < i.y + i.height && i.y < y + height))
        return { x, y };
    }
  }
  return { x: 40, y: 40 };
}

function add(instrument: Instrument, kind: FaceItem["kind"]): void {
  const [width, height] = kind === "dial" ? [120, 150] : [200, 32];
  const id = freshId(new Set(instrument.face.items.map((i) => i.id)));
  session.commit(
    addFaceItem({
      id,
      kind,
      ...freePlace(instrument, width, height),
      width,
      height,
      text: kind === "label" ? "Label" : "",
      bind: null,
    }),
  );
  setView({ faceItem: id });
}

function dialsForMacros(instrument: Instrument): void {
  let doc = instrument;
  const gesture = "dials-for-macros";
  for (const macro of instrument.macros) {
    const edit = addFaceItem({
      id: freshId(),
      kind: "dial",
      ...freePlace(doc, 120, 150),
      width: 120,
      height: 150,
      text: "",
      bind: `macros/${macro.id}/value`,
    });
    doc = edit.apply(doc);
    session.commit({ ...edit, name: "Place dials for the macros", merge: gesture }, gesture);
  }
}

function ItemInspector({ item, instrument }: { item: FaceItem; instrument: Instrument }) {
  const change = (name: string, fields: Partial<FaceItem>, gesture: string | null = null) =>
    session.commit(changeFaceItem(item.id, name, fields), gesture);
  const params = listParams(instrument).filter((p) => p.spec.type === "number");
  const number = (id: "x" | "y" | "width" | "height", label: string) => (
    <Row label={label}>
      <Well
        label={label}
        text={`${Math.round(item[id])} px`}
        width={72}
        align="right"
        onType={(text) => {
          const value = parseNumber("count", text.replace(/\s*px$/i, ""));
          if (value === null) return false;
          change(`Set ${label.toLowerCase()}`, { [id]: value });
          return true;
        }}
        onStep={(steps) => change(`Set ${label.toLowerCase()}`, { [id]: item[id] + steps }, "step")}
      />
    </Row>
  );
  return (
    <>
      <h2 className="mb-2 font-display font-semibold text-l">{item.kind === "dial" ? "Dial" : "Label"}</h2>
      <Section title="Says">
        <Row label="Text">
          <Well
            label="Text"
            text={item.text}
            width={140}
            onType={(text) => {
              change("Set text", { text });
              return true;
            }}
          />
        </Row>
        {item.kind === "dial" && (
          <Row label="Moves" help="The macro or parameter that this dial moves">
            <Choice
              label="Bound to"
              placeholder="not bound"
              value={item.bind ?? ""}
              options={params.map((p) => ({
                id: p.address,
                label: p.label,
                group: p.unit?.kind === "macro" ? "Macros" : "Parameters",
              }))}
              onChange={(bind) => change("Bind dial", { bind })}
              className="flex-1"
            />
          </Row>
        )}
        {item.kind === "dial" && item.bind === null && (
          <p className="text-ochre text-s">This dial does nothing until it is bound.</p>
        )}
      </Section>
      <Section title="Place">
        {number("x", "Left")}
        {number("y", "Top")}
        {number("width", "Width")}
        {number("height", "Height")}
      </Section>
      <Button
        onClick={() => {
          session.commit(removeFaceItem(item.id));
          setView({ faceItem: null });
        }}
      >
        <Trash2 size={13} aria-hidden /> Remove
      </Button>
    </>
  );
}
