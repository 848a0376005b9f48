import { Search } from "lucide-react";
import type { ReactNode } from "react";
import { cx } from "./class-names";

interface SearchFieldProps {
  readonly label: string;
  /** What can be sought, shown while the field is empty. */
  readonly hint: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly className?: string;
  /** Stands at its end. */
  readonly children?: ReactNode;
}

/** A line above a list in which words are typed that are sought in it. */
export const SearchField = ({ label, hint, value, onChange, className, children }: SearchFieldProps) => (
  <label className={cx("flex items-center gap-1.5 border-rule border-b px-3 py-1", className)}>
    <Search size={13} aria-hidden className="shrink-0 text-ink-faint" />
    <input
      type="search"
      aria-label={label}
      placeholder={hint}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className="w-full min-w-0 bg-transparent outline-none"
    />
    {children}
  </label>
);

/** The words that are sought, in lower case; none where the field is empty. */
export const wordsIn = (sought: string): string[] =>
  sought
    .toLowerCase()
    .split(/\s+/)
    .filter((w) => w !== "");
