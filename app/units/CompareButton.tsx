import { Ear } from "lucide-react";
import { useEffect } from "react";
import { useStore } from "zustand";
import { formatNumber } from "../../core/params";
import { comparing } from "../state/comparing";
import { trimOf } from "../state/trim-of";
import { Button } from "../widgets/Button";
import { cx } from "../widgets/class-names";

/** Lets the sound be heard without all units of a row, as loud as with them, and back. */
export function CompareRow({ list, where }: { list: string; where: string }) {
  const on = useStore(comparing.store, (s) => s.address === list);
  const { without } = useStore(comparing.store);
  const { trim, sides } = useStore(comparing.match.store);
  const label = `Compare with and without the units of ${where}`;
  return (
    <button
      type="button"
      aria-label={label}
      aria-pressed={on && without}
      title={`${label}, as loud as each other`}
      onClick={() => comparing.toggle(list)}
      className={cx(
        "ml-1 flex h-6 shrink-0 items-center gap-1 rounded-m px-1 text-s",
        on && without ? "bg-ink text-sheet" : "text-ink-soft hover:bg-well hover:text-ink",
      )}
    >
      <Ear size={12} aria-hidden />
      {on && trimOf(sides) !== null && (
        <span className="num">{`${trim >= 0 ? "+" : ""}${formatNumber("decibels", trim)}`}</span>
      )}
    </button>
  );
}

/** Lets the sound be heard without a unit, as loud as with it, and back; the trim is measured while it sounds. */
export function CompareButton({ address }: { address: string }) {
  const { address: compared, without } = useStore(comparing.store);
  const { trim, sides } = useStore(comparing.match.store);
  const on = compared === address;
  // Whoever opens another unit, or leaves, no longer compares this one.
  useEffect(() => () => comparing.end(), []);
  const known = trimOf(sides) !== null;
  return (
    <>
      {on && (
        <span className="num min-w-0 truncate text-ink-soft text-s">
          {without ? "without it" : "with it"}
          {known ? ` · trim ${trim >= 0 ? "+" : ""}${formatNumber("decibels", trim)}` : " · play on both sides"}
        </span>
      )}
      <Button
        aria-label="Compare with and without"
        hint="Hear it without the unit, as loud as with it, and back"
        keys="Alt+C"
        pressed={on && without}
        onClick={() => comparing.toggle(address)}
      >
        <Ear size={13} aria-hidden />
      </Button>
    </>
  );
}
