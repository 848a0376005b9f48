import { faceKind, formOf, isControl } from "../../../core/face";
import { changeFaceItem, type FaceItem, type Instrument, TONES } from "../../../core/instrument";
import { formatNumber, parseNumber, plural } from "../../../core/params";
import { commitFace } from "../../state/face-selection";
import { useView } from "../../state/view";
import { Choice } from "../../widgets/Choice";
import { MenuButton, WordMenu } from "../../widgets/CommandMenu";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { BindTree } from "./BindTree";
import { ConditionSection, TONE_NAMES } from "./ConditionSection";
import { ARRANGE_COMMANDS, FACE_COMMANDS } from "./face-commands";
import { MovesSection } from "./MovesSection";
import { OwnLookSection, PictureRows, WaveRow } from "./OwnLookSection";
import { PlaceSection } from "./PlaceSection";

/** The item that is chosen: what it says, what it moves, how it looks, where it stands, when it is there. */
export function ItemPanel({ instrument }: { instrument: Instrument }) {
  const selected = useView((v) => v.faceItem);
  const more = useView((v) => v.faceMore);
  const item = instrument.face.items.find((i) => i.id === selected);
  if (!item)
    return (
      <>
        <p className="text-ink-soft text-s">
          Select an item to change it; a frame drawn over the page selects several, Shift adds. Drag to move: it snaps
          to edges, centres, gaps and guides; Alt switches snapping off. Arrow keys move by one pixel, with Shift by
          eight. Drag guides out of the rulers; drop pictures on the page or on an item.
        </p>
        <BindTree instrument={instrument} />
      </>
    );
  if (more.size > 0)
    return (
      <>
        <h2 className="mb-2 font-display font-semibold text-l">{plural(more.size + 1, "item")}</h2>
        <div className="mb-3 flex flex-wrap gap-2">
          <WordMenu word="Arrange" commands={ARRANGE_COMMANDS} />
          <WordMenu word="Edit" commands={FACE_COMMANDS} />
        </div>
        <PlaceSection instrument={instrument} item={item} />
        <OwnLookSection instrument={instrument} item={item} />
        <ConditionSection instrument={instrument} item={item} />
      </>
    );
  return <OneItem key={item.id} instrument={instrument} item={item} />;
}

function OneItem({ instrument, item }: { instrument: Instrument; item: FaceItem }) {
  const { label, help, forms } = faceKind(item.kind);
  const change = (name: string, fields: Partial<FaceItem>, gesture: string | null = null): true => {
    commitFace(changeFaceItem(item.id, name, fields), gesture);
    return true;
  };
  return (
    <>
      <div className="mb-1 flex items-center justify-between gap-2">
        <h2 className="truncate font-display font-semibold text-l">{label}</h2>
        <MenuButton label="What can be done with the item" commands={FACE_COMMANDS} />
      </div>
      <p className="mb-2 text-ink-soft text-s">{help}</p>
      {isControl(item.kind) && <MovesSection instrument={instrument} item={item} />}
      <Section title="Says">
        <Row label="Text">
          <Well label="Text" text={item.text} width={138} onType={(text) => change("Set text", { text })} />
        </Row>
        <Row label="Name" help="What it is called in the outline">
          <Well label="Name of the item" text={item.name} width={138} onType={(name) => change("Set name", { name })} />
        </Row>
        {forms && (
          <Row label="Form">
            <Choice
              label="Form"
              value={formOf(item)}
              options={forms}
              onChange={(form) => change("Set form", { form })}
              className="flex-1"
            />
          </Row>
        )}
        {(item.kind === "label" || item.kind === "shape") && (
          <Row label="Tone">
            <Choice
              label="Tone"
              value={item.tone}
              options={TONES.map((id) => ({ id, label: TONE_NAMES[id] }))}
              onChange={(tone) => change("Set tone", { tone: tone as FaceItem["tone"] })}
              className="flex-1"
            />
          </Row>
        )}
        {item.kind === "scope" && formOf(item) === "sample" && <WaveRow instrument={instrument} item={item} />}
        {item.kind === "picture" && <PictureRows instrument={instrument} item={item} />}
        {item.kind === "random" && (
          <Row label="How far" help="How far chance moves something to each side, of its whole travel">
            <Well
              label="How far chance moves"
              text={formatNumber("percent", item.amount)}
              width={76}
              align="right"
              onType={(text) => {
                const amount = parseNumber("percent", text);
                return amount !== null && change("Set how far", { amount: Math.min(1, Math.max(0, amount)) });
              }}
              onStep={(steps) =>
                change("Set how far", { amount: Math.min(1, Math.max(0, item.amount + steps * 0.05)) }, "step")
              }
            />
          </Row>
        )}
      </Section>
      <PlaceSection instrument={instrument} item={item} />
      <OwnLookSection instrument={instrument} item={item} />
      <ConditionSection instrument={instrument} item={item} />
    </>
  );
}
