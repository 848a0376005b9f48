import { DIAL_FORMS, faceTheme, guessedFrames, isControl } from "../../../core/face";
import {
  addFacePictures,
  changeFaceItems,
  type FaceItem,
  type FacePicture,
  type Instrument,
  LAYER_WAYS,
  type LayerWay,
  newPictureLayer,
  type OwnLook,
  type PictureLayer,
  PLAIN_LOOK,
  together,
} from "../../../core/instrument";
import { parseNumber } from "../../../core/params";
import { PICTURE_FILES, readPictures } from "../../state/face-pictures";
import { chosenIds, commitFace } from "../../state/face-selection";
import { pickFiles } from "../../state/pick-files";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Fold, Row } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { drawable, waveOf } from "./outlines";

const WAYS: Readonly<Record<LayerWay, string>> = {
  stays: "Stays",
  turns: "Turns with the value",
  slides: "Slides to the right",
  rises: "Rises",
  fills: "Is seen from below as far",
  frames: "One frame for each value",
  plays: "Plays by itself",
};

/** Stands for what the theme has. */
const THEMES = "·";

const DIAL_NAMES = { hand: "Hand", slice: "Slice", ring: "Ring", block: "Block", line: "Line", dots: "Dots" } as const;

const change = (name: string, fields: (item: FaceItem) => Partial<FaceItem>, gesture: string | null = null) =>
  commitFace(changeFaceItems(new Set(chosenIds()), name, fields), gesture);

/** A colour of an item's own, or its theme's. */
export function ColourRow({
  label,
  value,
  usual,
  set,
}: {
  label: string;
  value: string | null;
  usual: string;
  set: (colour: string | null, gesture: string | null) => void;
}) {
  return (
    <Row label={label}>
      <input
        type="color"
        aria-label={`${label}, to be picked`}
        value={value ?? usual}
        onChange={(event) => set(event.target.value, "colour")}
        className="size-6 rounded-m border border-rule-strong bg-sheet"
      />
      <Well
        label={label}
        text={value ?? "theme’s"}
        width={84}
        hint="A colour as #rrggbb; nothing: the theme’s"
        onType={(text) => {
          const typed = text.trim().toLowerCase();
          if (typed === "" || typed === "theme’s") set(null, null);
          else if (/^#?[0-9a-f]{6}$/.test(typed)) set(typed.startsWith("#") ? typed : `#${typed}`, null);
          else return false;
          return true;
        }}
      />
    </Row>
  );
}

/** What the chosen items have of their own instead of their theme's: colours, letters, the form of a dial, pictures. */
export function OwnLookSection({ instrument, item }: { instrument: Instrument; item: FaceItem }) {
  const { face } = instrument;
  const theme = faceTheme(face.theme);
  const look = (name: string, fields: Partial<OwnLook>, gesture: string | null = null) =>
    change(name, (i) => ({ look: { ...i.look, ...fields } }), gesture);
  const plain = Object.values(item.look).every((value) => value === null);
  return (
    <Fold
      className="border-rule border-t py-1"
      title={plain && item.pictures.length === 0 ? "Looks as its theme" : "Looks of its own"}
    >
      <ColourRow label="Ink" value={item.look.ink} usual={theme.ink} set={(ink, g) => look("Set ink", { ink }, g)} />
      {isControl(item.kind) && (
        <>
          <ColourRow
            label="Spot"
            value={item.look.spot}
            usual={theme.spot}
            set={(spot, g) => look("Set spot colour", { spot }, g)}
          />
          <ColourRow
            label="Well"
            value={item.look.fill}
            usual={theme.fill}
            set={(fill, g) => look("Set colour of wells", { fill }, g)}
          />
        </>
      )}
      <Row label="Letters">
        <Well
          label="Height of letters"
          text={item.look.letters === null ? "theme’s" : `${item.look.letters} px`}
          width={84}
          align="right"
          hint="In pixels; nothing: the theme’s"
          onType={(text) => {
            const typed = text.replace(/\s*px$/i, "").trim();
            if (typed === "" || typed === "theme’s") look("Set letters", { letters: null });
            else {
              const letters = parseNumber("count", typed);
              if (letters === null) return false;
              look("Set letters", { letters: Math.min(400, Math.max(4, Math.round(letters))) });
            }
            return true;
          }}
          onStep={(steps) =>
            look("Set letters", { letters: Math.min(400, Math.max(4, (item.look.letters ?? 14) + steps)) }, "step")
          }
        />
      </Row>
      {face.fonts.length > 0 && (
        <Row label="Font">
          <Choice
            label="Font"
            value={item.look.font ?? THEMES}
            options={[{ id: THEMES, label: "The theme’s" }, ...face.fonts.map(({ id, name }) => ({ id, label: name }))]}
            onChange={(font) => look("Set font", { font: font === THEMES ? null : font })}
            className="flex-1"
          />
        </Row>
      )}
      {item.kind === "dial" && (
        <Row label="Dial">
          <Choice
            label="Form of the dial"
            value={item.look.dial ?? THEMES}
            options={[{ id: THEMES, label: "The theme’s" }, ...DIAL_FORMS.map((id) => ({ id, label: DIAL_NAMES[id] }))]}
            onChange={(dial) => look("Set form of the dial", { dial: dial === THEMES ? null : dial })}
            className="flex-1"
          />
        </Row>
      )}
      {!["label", "shape", "picture"].includes(item.kind) && <PictureRows instrument={instrument} item={item} />}
      {!plain && (
        <Button onClick={() => change("Look as the theme", () => ({ look: PLAIN_LOOK }))}>As its theme has it</Button>
      )}
    </Fold>
  );
}

/** The sample that an item draws. */
export function WaveRow({ instrument, item }: { instrument: Instrument; item: FaceItem }) {
  return (
    <Row label="Sample">
      <Choice
        label="Sample that is drawn"
        placeholder="select"
        value={item.wave?.sample ?? ""}
        options={drawable(instrument)}
        onChange={(sample) =>
          void waveOf(sample).then(
            (wave) => wave && change("Draw a sample", (i) => (i.kind === "scope" ? { wave } : {})),
          )
        }
        className="flex-1"
      />
    </Row>
  );
}

/** Frames from which a picture that shows no value is taken for one that plays. */
const LEAST_PLAYED = 4;

/** A picture as a layer of an item: many frames go through its values, one alone stays. */
export const layerFor = (
  picture: { readonly id: string; readonly width: number; readonly height: number },
  item: Pick<FaceItem, "kind">,
): PictureLayer => {
  const shows = isControl(item.kind);
  // A switch may well have two frames; what is but twice as wide as high is mostly one picture.
  const frames = guessedFrames(picture, shows ? 2 : LEAST_PLAYED);
  const does = frames === 1 ? "stays" : shows ? "frames" : "plays";
  return { ...newPictureLayer(picture.id), does, frames };
};

/** Draws items with pictures that the face gets with it, over those that they have: in one step. */
export const drawWith = (pictures: readonly FacePicture[], ids: readonly string[]): void =>
  commitFace(
    together("Draw with a picture", [
      addFacePictures(pictures),
      changeFaceItems(new Set(ids), "", (item) => ({
        pictures: [...item.pictures, ...pictures.map((p) => layerFor(p, item))].slice(0, 16),
      })),
    ]),
  );

/** The pictures that an item is drawn with, the hindmost first. */
export function PictureRows({ instrument, item }: { instrument: Instrument; item: FaceItem }) {
  const { pictures } = instrument.face;
  const set = (name: string, next: readonly PictureLayer[], gesture: string | null = null) =>
    change(name, () => ({ pictures: next.slice(0, 16) }), gesture);
  const put = (n: number, fields: Partial<PictureLayer>, gesture: string | null = null) =>
    set(
      "Set picture",
      item.pictures.map((layer, i) => (i === n ? { ...layer, ...fields } : layer)),
      gesture,
    );
  const add = (id: string) => {
    const picture = pictures.find((p) => p.id === id);
    if (picture) set("Draw with a picture", [...item.pictures, layerFor(picture, item)]);
  };
  const bring = async () => {
    const taken = await readPictures(await pickFiles({ accept: PICTURE_FILES }));
    if (taken.length > 0) drawWith(taken, chosenIds());
  };
  return (
    <>
      {item.pictures.map((layer, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: one picture may lie there twice
        <div key={n} className="mb-1 border-rule border-l-2 pl-2">
          <div className="flex items-center justify-between gap-2">
            <span className="truncate text-s">
              {pictures.find((p) => p.id === layer.picture)?.name ?? "a picture that is gone"}
            </span>
            <Button
              aria-label="Draw without this picture"
              onClick={() => set("Draw without a picture", item.pictures.toSpliced(n, 1))}
            >
              −
            </Button>
          </div>
          <Row label="It">
            <Choice
              label="What the picture does"
              value={layer.does}
              options={LAYER_WAYS.map((id) => ({ id, label: WAYS[id] }))}
              onChange={(does) => put(n, { does: does as LayerWay })}
              className="flex-1"
            />
          </Row>
          {(layer.does === "frames" || layer.does === "plays") && (
            <Row label="Frames">
              <Count
                label="Frames of the picture"
                value={layer.frames}
                least={1}
                most={512}
                set={(frames, g) => put(n, { frames }, g)}
              />
              {layer.does === "plays" && (
                <Count
                  label="Frames a second"
                  unit=" /s"
                  value={layer.rate}
                  least={1}
                  most={60}
                  set={(rate, g) => put(n, { rate }, g)}
                />
              )}
            </Row>
          )}
        </div>
      ))}
      <div className="mb-1 flex items-center gap-2">
        {pictures.length > 0 && (
          <Choice
            label="Draw with a picture"
            placeholder="one of its pictures"
            value=""
            options={pictures.map(({ id, name, width, height }) => ({ id, label: `${name} (${width} × ${height})` }))}
            onChange={add}
            className="flex-1"
          />
        )}
        <Button onClick={() => void bring()} hint="PNG, JPEG, WebP or SVG; a filmstrip is known by its form">
          Picture …
        </Button>
      </div>
    </>
  );
}

/** A whole number in a well. */
function Count({
  label,
  value,
  unit = "",
  least,
  most,
  set,
}: {
  label: string;
  value: number;
  unit?: string;
  least: number;
  most: number;
  set: (value: number, gesture: string | null) => void;
}) {
  const within = (x: number) => Math.min(most, Math.max(least, Math.round(x)));
  return (
    <Well
      label={label}
      text={`${value}${unit}`}
      width={64}
      align="right"
      onType={(text) => {
        const typed = parseNumber("count", text.replace(/\s*\/s$/, ""));
        if (typed !== null) set(within(typed), null);
        return typed !== null;
      }}
      onStep={(steps) => set(within(value + steps), "step")}
    />
  );
}
