import { faceTheme } from "../../../core/face";
import {
  changeFace,
  changeFacePage,
  FACE_THEMES,
  type Face,
  type FacePage,
  type FaceSize,
  type Instrument,
  renameFacePage,
  sizeOfPage,
} from "../../../core/instrument";
import { parseNumber } from "../../../core/params";
import { DialFace } from "../../face/DialFace";
import { faceStyle } from "../../face/face-style";
import { commitFace } from "../../state/face-selection";
import { useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { cx } from "../../widgets/class-names";
import { Row, Section } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";
import { TestRows } from "./ConditionSection";
import { FilesSection } from "./FilesSection";
import { GroundSection } from "./GroundSection";

/** Sizes that a page often has. */
const SIZES = [
  { label: "Wide", width: 900, height: 420 },
  { label: "Usual", width: 640, height: 360 },
  { label: "Square", width: 560, height: 560 },
  { label: "Phone", width: 360, height: 640 },
] as const;

/** How the whole face looks: theme, ground, pictures and fonts, the size of its pages, and what the page is. */
export function LookPanel({ instrument, page }: { instrument: Instrument; page: string | null }) {
  const { face } = instrument;
  const shown = face.pages.find((p) => p.id === page);
  const screen = useView((v) => v.faceScreen);
  return (
    <>
      <ThemeSection face={face} />
      <GroundSection instrument={instrument} />
      {shown && <PageSection instrument={instrument} page={shown} />}
      <Section title={screen === null ? "Size of the pages" : `Size of the pages on a ${screen}`}>
        <SizeRows name="of the page" size={face} set={(size) => commitFace(changeFace("Set size of the page", size))} />
        <div className="mt-1 flex flex-wrap gap-1">
          {SIZES.map(({ label, width, height }) => (
            <button
              key={label}
              type="button"
              aria-pressed={face.width === width && face.height === height}
              onClick={() => commitFace(changeFace("Set size of the page", { width, height }))}
              className="h-6 rounded-m border border-rule-strong px-2 hover:bg-well aria-pressed:bg-ink aria-pressed:text-sheet"
            >
              {label}{" "}
              <span className="num text-s">
                {width} × {height}
              </span>
            </button>
          ))}
        </div>
      </Section>
      <FilesSection face={face} />
    </>
  );
}

/** A size in two wells, kept in its limits. */
function SizeRows({
  size,
  name,
  least = 100,
  set,
}: {
  size: FaceSize;
  name: string;
  least?: number;
  set: (size: Partial<FaceSize>) => void;
}) {
  const row = (id: "width" | "height", label: string) => (
    <Row label={label}>
      <Well
        label={`${label} ${name}`}
        text={`${size[id]} px`}
        width={78}
        align="right"
        onType={(text) => {
          const value = parseNumber("count", text.replace(/\s*px$/i, ""));
          if (value !== null) set({ [id]: Math.round(Math.min(4000, Math.max(least, value))) });
          return value !== null;
        }}
      />
    </Row>
  );
  return (
    <>
      {row("width", "Width")}
      {row("height", "Height")}
    </>
  );
}

/** What a page is called, whether it lies over another, its own size, and by which value it is shown. */
function PageSection({ instrument, page }: { instrument: Instrument; page: FacePage }) {
  const { face } = instrument;
  const set = (name: string, change: Partial<FacePage>) => commitFace(changeFacePage(page.id, name, change));
  const own = page.width !== null || page.height !== null;
  const first = instrument.macros[0];
  const by = first ? `macros/${first.id}/value` : "play/level";
  return (
    <Section title="This page">
      <Row label="Name">
        <Well
          label="Name of the page"
          text={page.name}
          width={138}
          onType={(name) => {
            commitFace(renameFacePage(page.id, name.trim() || "Page"));
            return true;
          }}
        />
      </Row>
      <Row label="Lies over" help="It lies over the page that one comes from, with a cross to close it">
        <Toggle
          label="Lies over the other pages"
          hidden
          on={page.over}
          onChange={(over) => set(over ? "Lay the page over others" : "Let the page stand by itself", { over })}
        />
      </Row>
      <Row label="Own size" help="It is larger or smaller than the other pages">
        <Toggle
          label="Page has a size of its own"
          hidden
          on={own}
          onChange={(on) => {
            const size = sizeOfPage(face, page.id);
            set("Set size of the page", on ? size : { width: null, height: null });
          }}
        />
      </Row>
      {own && (
        <SizeRows
          name="of this page"
          size={sizeOfPage(face, page.id)}
          least={10}
          set={(size) => set("Set size of the page", size)}
        />
      )}
      {page.when ? (
        <>
          <TestRows
            instrument={instrument}
            test={page.when}
            name="Page"
            set={(when) => set("Show the page by a value", { when })}
          />
          <Button onClick={() => set("Show the page by hand", { when: null })}>Show it by hand only</Button>
        </>
      ) : (
        <Button
          hint="While something stands above, below or between places this page is shown, whatever was chosen"
          onClick={() => set("Show the page by a value", { when: { address: by, is: "above", share: 0.5, upTo: 1 } })}
        >
          Show it by a value
        </Button>
      )}
    </Section>
  );
}

function ThemeSection({ face }: { face: Face }) {
  return (
    <Section title="Theme">
      <div role="radiogroup" aria-label="Theme" className="grid grid-cols-2 gap-2">
        {FACE_THEMES.map((id) => {
          const { label, form, help } = faceTheme(id);
          const { textTransform: _plain, ...style } = faceStyle(id);
          return (
            <button
              key={id}
              type="button"
              role="radio"
              aria-checked={id === face.theme}
              title={help}
              onClick={() => commitFace(changeFace(`Set theme ${label}`, { theme: id }))}
              style={{ ...style, fontSize: 12 }}
              className={cx(
                "flex items-center gap-2 p-2 text-left text-s",
                id === face.theme && "outline-2 outline-cobalt outline-offset-1",
              )}
            >
              <DialFace form={form} travel={0.62} size={28} />
              <span className="min-w-0">{label}</span>
            </button>
          );
        })}
      </div>
    </Section>
  );
}
