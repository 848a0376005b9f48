import { changeFaceFont, type Face, removeFaceFont, removeFacePictures } from "../../../core/instrument";
import { FONT_FILES, PICTURE_FILES, takeFont, takePictures } from "../../state/face-pictures";
import { commitFace } from "../../state/face-selection";
import { pickFiles } from "../../state/pick-files";
import { Button } from "../../widgets/Button";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";

/** The letters of data that a picture or a font takes, as people count them. */
const kilobytes = (data: string): string => `${Math.max(1, Math.round((data.length * 0.75) / 1024))} KB`;

/** The pictures and fonts that come with the face: brought in, looked at, taken out. */
export function FilesSection({ face }: { face: Face }) {
  return (
    <>
      <Section title={`Pictures${face.pictures.length > 0 ? ` · ${face.pictures.length}` : ""}`}>
        <ul aria-label="Pictures of the face">
          {face.pictures.map(({ id, name, width, height, data }) => (
            <li key={id} className="mb-1 flex items-center gap-2">
              <img src={data} alt="" className="size-7 shrink-0 rounded-m border border-rule object-contain" />
              <span className="min-w-0 flex-1 truncate">
                {name}{" "}
                <span className="num text-ink-soft text-s">
                  {width} × {height}, {kilobytes(data)}
                </span>
              </span>
              <Button
                aria-label={`Remove the picture ${name}`}
                onClick={() => commitFace(removeFacePictures(new Set([id])))}
              >
                −
              </Button>
            </li>
          ))}
        </ul>
        <Button
          hint="PNG, JPEG, WebP or SVG; they can also be dropped on the page"
          onClick={() => void pickFiles({ accept: PICTURE_FILES }).then(takePictures)}
        >
          Pictures …
        </Button>
      </Section>
      <Section title="Fonts">
        {face.fonts.map(({ id, name, licence, data }) => (
          <div key={id} className="mb-2 border-rule border-l-2 pl-2">
            <div className="flex items-center gap-2">
              <span className="min-w-0 flex-1 truncate">
                {name} <span className="num text-ink-soft text-s">{kilobytes(data)}</span>
              </span>
              <Button aria-label={`Remove the font ${name}`} onClick={() => commitFace(removeFaceFont(id))}>
                −
              </Button>
            </div>
            <Row label="Licence" help="Under which licence the font may be passed on with the instrument">
              <Well
                label={`Licence of the font ${name}`}
                text={licence}
                width={130}
                onType={(text) => {
                  commitFace(changeFaceFont(id, { licence: text.trim().slice(0, 2000) }));
                  return true;
                }}
              />
            </Row>
          </div>
        ))}
        <Button
          hint="WOFF2, WOFF, TrueType or OpenType; it goes along with the instrument"
          onClick={() =>
            void pickFiles({ accept: FONT_FILES }).then(async (files) => {
              for (const file of files) await takeFont(file);
            })
          }
        >
          Font …
        </Button>
      </Section>
    </>
  );
}
