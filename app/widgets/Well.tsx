import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { cx } from "./class-names";

interface WellProps {
  readonly label: string;
  /** The value as people read it. */
  readonly text: string;
  /** Takes what was typed; false when it can't be understood. */
  readonly onType: (text: string) => boolean;
  /** Steps by the arrow keys: +1 or −1, ten times that with shift. */
  readonly onStep?: (steps: number) => void;
  readonly width?: number;
  readonly disabled?: boolean;
  /** Whether several selected things differ here. */
  readonly mixed?: boolean;
  readonly align?: "left" | "right";
  /** What can be typed here, where that isn't plain. */
  readonly hint?: string | undefined;
}

/** A recessed field with a value in it, which can be typed over; Escape gives up, a value that can't be understood is marked. */
export function Well({ label, text, onType, onStep, width = 78, disabled, mixed, align = "left", hint }: WellProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const givenUp = useRef(false);
  useEffect(() => {
    if (draft === null) setWrong(false);
  }, [draft]);

  const finish = () => {
    if (draft === null || draft === text) {
      setDraft(null);
      return true;
    }
    const understood = onType(draft);
    setWrong(!understood);
    if (understood) setDraft(null);
    return understood;
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "Enter") {
      if (finish()) input.current?.select();
    } else if (event.key === "Escape") {
      // Leaving the field takes what is in it: not what was given up.
      givenUp.current = true;
      setDraft(null);
      setWrong(false);
      input.current?.blur();
    } else if (onStep && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
      event.preventDefault();
      setDraft(null);
      onStep((event.key === "ArrowUp" ? 1 : -1) * (event.shiftKey ? 10 : 1));
    } else return;
    event.stopPropagation();
  };
  return (
    <input
      ref={input}
      aria-label={label}
      aria-invalid={wrong}
      title={wrong ? "This can't be understood here" : hint}
      disabled={disabled}
      value={draft ?? (mixed ? "mixed" : text)}
      style={{ width }}
      data-clean={draft === null || draft === text}
      spellCheck={false}
      onChange={(event) => setDraft(event.target.value)}
      onFocus={(event) => event.target.select()}
      onBlur={() => {
        if (givenUp.current || !finish()) setDraft(null);
        givenUp.current = false;
      }}
      onKeyDown={onKeyDown}
      className={cx(
        "num h-[22px] rounded-[2px] border bg-well px-1.5 text-[12px] disabled:opacity-50",
        align === "right" && "text-right",
        wrong ? "border-vermilion" : "border-transparent hover:border-rule-strong",
        mixed && draft === null && "italic text-ink-soft",
      )}
    />
  );
}
