import { faceTheme } from "../../../core/face";
import { addFacePictures, changeFace, type FaceGround, type Instrument, together } from "../../../core/instrument";
import { parseNumber } from "../../../core/params";
import { PICTURE_FILES, readPictures } from "../../state/face-pictures";
import { commitFace } from "../../state/face-selection";
import { pickFiles } from "../../state/pick-files";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { ColourRow } from "./OwnLookSection";
import { drawable, groundOf } from "./outlines";

const KINDS = [
  { id: "theme", label: "Theme’s paper" },
  { id: "colour", label: "One colour" },
  { id: "gradient", label: "Two colours" },
  { id: "picture", label: "A picture" },
  { id: "wave", label: "A sample’s wave" },
  { id: "spectrum", label: "A sample’s spectrum" },
] as const;

/** What lies behind all items of the face. */
export function GroundSection({ instrument }: { instrument: Instrument }) {
  const { face } = instrument;
  const { ground, pictures, theme } = face;
  const samples = drawable(instrument);
  const set = (change: Partial<FaceGround>, gesture: string | null = null) =>
    commitFace(changeFace("Set ground", { ground: { ...ground, ...change } }), gesture);
  const draw = async (kind: "wave" | "spectrum", sample: string) => {
    const rate = instrument.samples.find((s) => s.sha === sample)?.rate ?? 48000;
    const drawn = await groundOf(kind, sample, rate);
    if (drawn) set(drawn);
  };
  const choose = (kind: FaceGround["kind"]) => {
    const [first] = samples;
    if ((kind === "wave" || kind === "spectrum") && first) return void draw(kind, first.id);
    const plain = ground.kind === "theme" ? { colour: faceTheme(theme).ground, second: faceTheme(theme).fill } : {};
    set({ kind, ...plain, ...(kind === "picture" ? { picture: ground.picture ?? pictures[0]?.id ?? null } : {}) });
  };
  const bring = async () => {
    const [picture] = await readPictures((await pickFiles({ accept: PICTURE_FILES })).slice(0, 1));
    if (!picture) return;
    const lain = { ...ground, kind: "picture" as const, picture: picture.id };
    commitFace(together("Set ground", [addFacePictures([picture]), changeFace("", { ground: lain })]));
  };
  return (
    <Section title="Ground">
      <Row label="Is">
        <Choice
          label="Ground"
          value={ground.kind}
          options={KINDS.filter(({ id }) => samples.length > 0 || (id !== "wave" && id !== "spectrum"))}
          onChange={(kind) => choose(kind as FaceGround["kind"])}
          className="flex-1"
        />
      </Row>
      {(ground.kind === "colour" || ground.kind === "gradient") && (
        <ColourRow
          label="Colour"
          value={ground.colour}
          usual={ground.colour}
          set={(colour, g) => set({ colour: colour ?? faceTheme(theme).ground }, g)}
        />
      )}
      {ground.kind === "gradient" && (
        <>
          <ColourRow
            label="To"
            value={ground.second}
            usual={ground.second}
            set={(second, g) => set({ second: second ?? faceTheme(theme).fill }, g)}
          />
          <Row label="Direction">
            <Well
              label="Direction of the gradient"
              text={`${Math.round(ground.angle)}°`}
              width={72}
              align="right"
              onType={(text) => {
                const angle = parseNumber("count", text.replace(/\s*°$/, ""));
                if (angle !== null) set({ angle: Math.min(360, Math.max(-360, angle)) });
                return angle !== null;
              }}
              onStep={(steps) => set({ angle: (ground.angle + steps * 5) % 360 }, "step")}
            />
          </Row>
        </>
      )}
      {ground.kind === "picture" && (
        <Row label="Picture">
          {pictures.length > 0 && (
            <Choice
              label="Picture of the ground"
              placeholder="none yet"
              value={ground.picture ?? ""}
              options={pictures.map(({ id, name }) => ({ id, label: name }))}
              onChange={(picture) => set({ picture })}
              className="min-w-0 flex-1"
            />
          )}
          <Button onClick={() => void bring()}>Picture …</Button>
        </Row>
      )}
      {(ground.kind === "wave" || ground.kind === "spectrum") && (
        <Row label="Sample">
          <Choice
            label="Sample of the ground"
            placeholder="another"
            value=""
            options={samples}
            onChange={(sample) => void draw(ground.kind === "spectrum" ? "spectrum" : "wave", sample)}
            className="flex-1"
          />
        </Row>
      )}
    </Section>
  );
}
