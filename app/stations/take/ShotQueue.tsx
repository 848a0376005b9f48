import { useStore } from "zustand";
import { nameOfStrength } from "../../../core/mapping";
import { shotSession } from "../../state/recording";
import { cx } from "../../widgets/class-names";

/** How many entries are shown from the one that is asked for on. */
const AHEAD = 14;

/** What comes next on the shot list, beside the stage. */
export function ShotQueue() {
  const { shots, shot } = useStore(shotSession.store);
  const at = shots.findIndex((s) => s.id === shot?.id);
  const from = Math.max(0, (at < 0 ? shots.length : at) - 3);
  return (
    <>
      <h2 className="mb-2 font-display font-semibold text-l">The list</h2>
      <ol aria-label="What comes next">
        {shots.slice(from, from + AHEAD).map((s, i) => (
          <li
            key={s.id}
            className={cx(
              "flex h-7 items-center gap-2 border-rule border-b px-1.5",
              s.id === shot?.id ? "bg-tint-cobalt font-semibold" : s.state !== "open" && "text-ink-faint",
            )}
          >
            <span className="num w-6 text-right text-s">{from + i + 1}</span>
            <span className="min-w-12 max-w-[55%] truncate">{s.name}</span>
            <span className="flex-1 truncate text-s">
              {[nameOfStrength(s.strength, s.strengths), `repeat ${s.repeat}`].filter(Boolean).join(" · ")}
            </span>
            {s.state !== "open" && <span className="text-s">{s.state}</span>}
          </li>
        ))}
      </ol>
      {shots.length > from + AHEAD && (
        <p className="mt-1 px-1.5 text-ink-soft text-s">and {shots.length - from - AHEAD} more</p>
      )}
    </>
  );
}
