import { Command } from "cmdk";
import { Check, ChevronDown } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import { foundBy } from "../../core/params";
import type { ChoiceOption } from "./Choice";
import { cx } from "./class-names";

interface ComboProps {
  readonly label: string;
  readonly value: string;
  readonly options: readonly ChoiceOption[];
  readonly onChange: (id: string) => void;
  readonly className?: string | undefined;
  readonly placeholder: string;
  readonly disabled: boolean;
}

/** Beyond so many lines a list is shown only as far as it is looked through: thousands would take long to make. */
const MOST_SHOWN = 200;

/** One of many, found by typing a part of its name; under headings where there are any. */
export function Combo({ label, value, options, onChange, className, placeholder, disabled }: ComboProps) {
  const [open, setOpen] = useState(false);
  const chosen = options.find((o) => o.id === value);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button
          type="button"
          role="combobox"
          aria-label={label}
          aria-expanded={open}
          disabled={disabled}
          className={cx(
            "inline-flex h-[24px] min-w-0 items-center justify-between gap-1 rounded-[2px] border border-transparent bg-well px-1.5 hover:border-rule-strong disabled:opacity-45",
            className,
          )}
        >
          <span className={chosen ? "truncate" : "truncate text-ink-faint"}>{chosen?.label ?? placeholder}</span>
          <ChevronDown size={13} aria-hidden className="shrink-0" />
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={3}
          collisionPadding={8}
          className="z-50 min-w-[max(220px,var(--radix-popover-trigger-width))] rounded-m border border-rule-strong bg-sheet shadow-md"
        >
          <List
            label={label}
            value={value}
            options={options}
            onChoose={(id) => {
              setOpen(false);
              onChange(id);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function List({
  label,
  value,
  options,
  onChoose,
}: Pick<ComboProps, "label" | "value" | "options"> & { onChoose: (id: string) => void }) {
  const [text, setText] = useState("");
  const found = options.filter((o) => foundBy(o.label, text));
  // What is chosen is among what is shown first.
  const at = found.findIndex((o) => o.id === value);
  const from = text.trim() === "" && at >= MOST_SHOWN ? at - MOST_SHOWN / 2 : 0;
  const shown = found.slice(from, from + MOST_SHOWN);
  const groups = [...new Set(shown.map((o) => o.group ?? ""))];
  return (
    <Command label={label} shouldFilter={false} defaultValue={value}>
      <Command.Input
        autoFocus
        value={text}
        onValueChange={setText}
        placeholder="find …"
        className="h-8 w-full border-rule border-b bg-transparent px-2.5 outline-none"
      />
      <Command.List className="max-h-72 overflow-y-auto p-1">
        <Command.Empty className="px-2 py-1.5 text-ink-soft">Nothing has that in its name.</Command.Empty>
        {groups.map((group) => (
          <Command.Group
            key={group}
            heading={group || undefined}
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-1.5 [&_[cmdk-group-heading]]:text-ink-soft [&_[cmdk-group-heading]]:text-s"
          >
            {shown
              .filter((o) => (o.group ?? "") === group)
              .map((o) => (
                <Command.Item
                  key={o.id}
                  value={o.id}
                  disabled={o.disabled === true}
                  onSelect={() => onChoose(o.id)}
                  className="relative flex h-6 items-center rounded-[2px] pr-3 pl-6 data-[disabled=true]:text-ink-soft data-[selected=true]:bg-tint-cobalt"
                >
                  {o.id === value && <Check size={12} aria-hidden className="absolute left-2" />}
                  {o.label}
                </Command.Item>
              ))}
          </Command.Group>
        ))}
        {found.length > shown.length && (
          <p className="px-2 py-1 text-ink-soft text-s">and {found.length - shown.length} more: type to find them</p>
        )}
      </Command.List>
    </Command>
  );
}
