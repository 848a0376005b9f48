import { faceTheme } from "../../../core/face";
import { changeFace, FACE_THEMES, type Face, renameFacePage } from "../../../core/instrument";
import { parseNumber } from "../../../core/params";
import { DialFace } from "../../face/DialFace";
import { faceStyle } from "../../face/face-style";
import { session } from "../../state/session";
import { cx } from "../../widgets/class-names";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";

/** Sizes that a page often has. */
const SIZES = [
  { label: "Wide", width: 900, height: 420 },
  { label: "Usual", width: 640, height: 360 },
  { label: "Square", width: 560, height: 560 },
  { label: "Phone", width: 360, height: 640 },
] as const;

/** How the whole face looks: its theme and its size, and what the page is called. */
export function LookPanel({ face, page }: { face: Face; page: string | null }) {
  const shown = face.pages.find((p) => p.id === page);
  const size = (id: "width" | "height", label: string) => (
    <Row label={label}>
      <Well
        label={`${label} of the page`}
        text={`${face[id]} px`}
        width={78}
        align="right"
        onType={(text) => {
          const value = parseNumber("count", text.replace(/\s*px$/i, ""));
          if (value !== null)
            session.commit(
              changeFace(`Set ${id} of the page`, { [id]: Math.round(Math.min(4000, Math.max(100, value))) }),
            );
          return value !== null;
        }}
      />
    </Row>
  );
  return (
    <>
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
                onClick={() => session.commit(changeFace(`Set theme ${label}`, { theme: id }))}
                style={{ ...style, fontSize: 12 }}
                className={cx(
                  "flex items-center gap-2 p-2 text-left text-s",
                  id === face.theme && "outline-2 outline-cobalt outline-offset-1",
                )}
              >
                <DialFace form={form} travel={0.62} size={34} />
                <span className="min-w-0">{label}</span>
              </button>
            );
          })}
        </div>
      </Section>
      {shown && (
        <Section title="Page">
          <Row label="Name">
            <Well
              label="Name of the page"
              text={shown.name}
              width={140}
              onType={(name) => {
                session.commit(renameFacePage(shown.id, name.trim() || "Page"));
                return true;
              }}
            />
          </Row>
        </Section>
      )}
      <Section title="Size">
        {size("width", "Width")}
        {size("height", "Height")}
        <div className="mt-1 flex flex-wrap gap-1">
          {SIZES.map(({ label, width, height }) => (
            <button
              key={label}
              type="button"
              aria-pressed={face.width === width && face.height === height}
              onClick={() => session.commit(changeFace(`Set size of the page`, { width, height }))}
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
    </>
  );
}
