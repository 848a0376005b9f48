import { Tooltip } from "radix-ui";
import type { ButtonHTMLAttributes, ReactNode } from "react";
import { chordText } from "../state/chords";
import { cx } from "./class-names";

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** One primary action at a time; `warning` warns, `record` is red. */
  readonly look?: "plain" | "primary" | "warning" | "record" | "quiet";
  readonly pressed?: boolean;
  /** What it does, shown on hover and focus. */
  readonly hint?: string;
  /** The chord that does the same. */
  readonly keys?: string;
  readonly children: ReactNode;
}

const LOOKS = {
  plain: "border-rule-strong bg-sheet text-ink not-aria-disabled:hover:bg-well",
  primary: "border-cobalt bg-cobalt text-on-spot not-aria-disabled:hover:brightness-110",
  warning: "border-ochre bg-sheet text-ochre hover:bg-tint-ochre",
  record: "border-vermilion bg-sheet text-vermilion hover:bg-tint-vermilion",
  quiet: "border-transparent bg-transparent text-ink-soft hover:bg-well hover:text-ink",
} as const;

export function Button({
  look = "plain",
  pressed,
  hint,
  keys,
  className,
  children,
  disabled,
  onClick,
  ...rest
}: ButtonProps) {
  const button = (
    <button
      type="button"
      aria-pressed={pressed}
      // Kept reachable, so that it can be asked what it does and why not now.
      aria-disabled={disabled || undefined}
      onClick={(event) => {
        if (disabled) event.preventDefault();
        else onClick?.(event);
      }}
      className={cx(
        "inline-flex h-7 shrink-0 items-center justify-center gap-1.5 whitespace-nowrap rounded-m border px-2.5 font-medium aria-disabled:opacity-45",
        LOOKS[look],
        pressed && "!border-ink !bg-ink !text-sheet",
        className,
      )}
      {...rest}
    >
      {children}
    </button>
  );
  if (!hint) return button;
  return (
    <Hint text={hint} keys={keys}>
      {button}
    </Hint>
  );
}

/** Says what something is, on hover and on focus. */
export function Hint({
  text,
  keys,
  open,
  onOpen,
  children,
}: {
  text: string;
  keys?: string | undefined;
  /** Whether it is shown, where somebody else decides that. */
  open?: boolean;
  onOpen?: (open: boolean) => void;
  children: ReactNode;
}) {
  return (
    <Tooltip.Root {...(open === undefined ? {} : { open })} {...(onOpen ? { onOpenChange: onOpen } : {})}>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={6}
          collisionPadding={8}
          className="z-50 max-w-64 rounded-m border border-rule-strong bg-ink px-2 py-1 text-s text-sheet"
        >
          {text}
          {keys && <span className="num ml-2 opacity-75">{chordText(keys)}</span>}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
