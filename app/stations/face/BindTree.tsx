import { Fragment, useDeferredValue, useMemo, useState } from "react";
import { type Bindable, bindables } from "../../../core/face";
import { bindsOf, type Instrument, sizeOfPage } from "../../../core/instrument";
import { foundBy } from "../../../core/params";
import { addFor, bindItem } from "../../state/face-adding";
import { faceShown, pageShown } from "../../state/face-selection";
import { session } from "../../state/session";
import { cx } from "../../widgets/class-names";
import { SearchField, wordsIn } from "../../widgets/SearchField";
import { useDrag } from "../../widgets/use-drag";

/** Lines that are listed at once: beyond them one looks by name. */
const MOST = 150;

/** All that a face can move, found by a part of its name: dragged onto an item it binds that, onto the page it becomes a control there; pressed it becomes one, too. */
export function BindTree({ instrument }: { instrument: Instrument }) {
  const [sought, setSought] = useState("");
  const judged = useDeferredValue(instrument);
  const list = useMemo(() => bindables(judged, "any", true), [judged]);
  const on = useMemo(() => {
    const { pages, items } = judged.face;
    const names = new Map(pages.map((p) => [p.id, p.name]));
    return new Map(
      items.flatMap((item) =>
        bindsOf(item).map((bind) => [bind, item.page === null ? "every page" : (names.get(item.page) ?? "")]),
      ),
    );
  }, [judged]);
  const words = wordsIn(sought);
  const found = list.filter(({ label, group, id }) =>
    words.length === 0 ? !id.includes("/rows/") || id.includes("/rows/*/") : foundBy(`${group} ${label}`, sought),
  );
  const shown = found.slice(0, MOST);
  return (
    <section aria-label="What could be bound" className="mt-3 flex min-h-0 flex-1 flex-col border-rule border-t pt-2">
      <h3 className="mb-1 text-ink-soft text-s">What could be bound: drag it onto the page, or onto an item</h3>
      <SearchField
        label="Find what could be bound"
        hint="part of its name"
        value={sought}
        onChange={setSought}
        className="mb-1"
      />
      <ul className="min-h-24 flex-1 overflow-auto">
        {shown.map((entry, i) => (
          <Fragment key={entry.id}>
            {entry.group !== shown[i - 1]?.group && <li className="pt-1 font-semibold text-s">{entry.group}</li>}
            <Entry entry={entry} page={on.get(entry.addresses[0] ?? "") ?? null} />
          </Fragment>
        ))}
      </ul>
      {found.length > MOST && (
        <p className="text-ink-soft text-s">{found.length - MOST} more: look for them by name.</p>
      )}
    </section>
  );
}

function Entry({ entry, page }: { entry: Bindable; page: string | null }) {
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  const add = (place: { x: number; y: number } | null) => {
    addFor(entry.addresses, place);
  };
  const dragging = useDrag<true>({
    slack: 4,
    start: () => true,
    move: (_drag, event) => setAt({ x: event.clientX, y: event.clientY }),
    end: (_drag, event) => {
      const under = document.elementsFromPoint(event.clientX, event.clientY);
      const id = under
        .map((e) => e.closest<HTMLElement>("[data-face-item]")?.dataset.faceItem)
        .find((i) => i !== undefined);
      const item = session.instrument?.face.items.find((i) => i.id === id);
      if (item) return bindItem(item, entry);
      const face = under.find((e) => e instanceof HTMLElement && e.dataset.testid === "face-page");
      const box = face?.getBoundingClientRect();
      const shown = faceShown();
      if (!box || !shown) return;
      const scale = box.width / sizeOfPage(shown, pageShown()).width;
      add({ x: (event.clientX - box.left) / scale, y: (event.clientY - box.top) / scale });
    },
    click: () => add(null),
    over: () => setAt(null),
  });
  // "Oscillator cutoff" of a layer that stands above needn't say the layer again.
  const label = entry.label.startsWith(`${entry.group}: `) ? entry.label.slice(entry.group.length + 2) : entry.label;
  return (
    <li>
      <button
        type="button"
        {...dragging}
        onKeyDown={(event) => {
          if (event.key !== "Enter" && event.key !== " ") return;
          event.preventDefault();
          add(null);
        }}
        title="Drag it onto the page or onto an item; press to add a control for it"
        className="flex min-h-6 w-full touch-none items-center gap-2 rounded-m px-1.5 text-left hover:bg-well"
      >
        <span className="truncate">{label}</span>
        {page !== null && <span className="num shrink-0 text-ink-soft text-s">{page}</span>}
      </button>
      {at && (
        <span
          className={cx(
            "pointer-events-none fixed z-50 rounded-m border border-plum bg-sheet px-2 text-plum shadow-md",
          )}
          style={{ left: at.x + 10, top: at.y + 6 }}
        >
          {label}
        </span>
      )}
    </li>
  );
}
