import { Eye, EyeOff, Lock, LockOpen } from "lucide-react";
import { useState } from "react";
import { faceKind, itemName } from "../../../core/face";
import { changeFaceItem, type FaceItem, type Instrument, placeFaceItem } from "../../../core/instrument";
import { choose, chosenIds, commitFace, toggleChosen, withGroup } from "../../state/face-selection";
import { setView, useView } from "../../state/view";
import { WithMenu } from "../../widgets/CommandMenu";
import { cx } from "../../widgets/class-names";
import { SearchField, wordsIn } from "../../widgets/SearchField";
import { SortableList } from "../../widgets/SortableList";
import { FACE_COMMANDS } from "./face-commands";

/** Items that are listed at once: beyond them one looks by name. */
const MOST = 300;

/** All items by name, from the front to the back: chosen, locked, hidden here. */
export function OutlinePanel({ instrument, page }: { instrument: Instrument; page: string | null }) {
  const [sought, setSought] = useState("");
  const selected = useView((v) => v.faceItem);
  const more = useView((v) => v.faceMore);
  const words = wordsIn(sought);
  const { face } = instrument;
  const found = [...face.items]
    .reverse()
    .map((item) => ({ item, name: itemName(instrument, item) }))
    .filter(({ item, name }) =>
      words.every((w) => `${name} ${item.kind} ${faceKind(item.kind).label}`.toLowerCase().includes(w)),
    );
  const shown = found.slice(0, MOST);
  const pageName = (id: string | null) =>
    id === null ? "every page" : (face.pages.find((p) => p.id === id)?.name ?? "");
  const flip = (item: FaceItem, name: string, fields: Partial<FaceItem>) =>
    commitFace(changeFaceItem(item.id, name, fields));
  return (
    <>
      <SearchField label="Find items" hint="name or kind" value={sought} onChange={setSought} className="mb-2" />
      <SortableList
        label="Items of the face, the front first"
        ids={shown.map(({ item }) => item.id)}
        nameOf={(id) => shown.find(({ item }) => item.id === id)?.name ?? ""}
        onMove={(from, to) => {
          const ids = shown.map(({ item }) => item.id);
          const [id] = ids.splice(from, 1);
          if (id === undefined) return;
          // It lies in front of what then stands below it.
          commitFace(placeFaceItem(id, ids[to] ?? null));
        }}
        className="min-h-0 flex-1 overflow-auto"
      >
        {(id, grip) => {
          const line = shown.find(({ item }) => item.id === id);
          if (!line) return null;
          const { item, name } = line;
          const on = item.id === selected || more.has(item.id);
          return (
            <div
              className={cx(
                "flex h-7 items-center gap-1 rounded-m",
                on ? "bg-tint-cobalt" : "hover:bg-well",
                item.hidden && "opacity-60",
              )}
            >
              {grip}
              <WithMenu commands={FACE_COMMANDS}>
                <button
                  type="button"
                  aria-pressed={on}
                  className="min-w-0 flex-1 truncate px-0.5 text-left"
                  onContextMenu={() => !chosenIds().includes(item.id) && choose([item.id])}
                  onClick={(event) => {
                    if (item.page !== null && item.page !== page) setView({ facePage: item.page });
                    if (event.shiftKey || event.ctrlKey || event.metaKey) toggleChosen(item.id);
                    else choose(withGroup(item.id));
                  }}
                >
                  {name}{" "}
                  <span className="text-ink-soft text-s">
                    {face.pages.length > 1 || item.page === null ? pageName(item.page) : ""}
                  </span>
                </button>
              </WithMenu>
              <button
                type="button"
                aria-pressed={item.hidden}
                aria-label={`Hide ${name}`}
                className="grid size-6 place-items-center text-ink-soft hover:text-ink"
                onClick={() => flip(item, item.hidden ? "Show" : "Hide", { hidden: !item.hidden })}
              >
                {item.hidden ? <EyeOff size={13} aria-hidden /> : <Eye size={13} aria-hidden />}
              </button>
              <button
                type="button"
                aria-pressed={item.locked}
                aria-label={`Lock ${name}`}
                className="grid size-6 place-items-center text-ink-soft hover:text-ink"
                onClick={() => flip(item, item.locked ? "Unlock" : "Lock", { locked: !item.locked })}
              >
                {item.locked ? <Lock size={13} aria-hidden /> : <LockOpen size={13} aria-hidden />}
              </button>
            </div>
          );
        }}
      </SortableList>
      {found.length === 0 && (
        <p className="text-ink-soft">{sought === "" ? "Nothing stands on the face yet." : "No item is called so."}</p>
      )}
      {found.length > MOST && (
        <p className="text-ink-soft text-s">{found.length - MOST} more: look for them by name.</p>
      )}
    </>
  );
}
