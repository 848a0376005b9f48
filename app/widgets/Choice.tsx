import { Check, ChevronDown } from "lucide-react";
import { Select } from "radix-ui";
import { useState } from "react";
import { Combo } from "./Combo";
import { cx } from "./class-names";

export interface ChoiceOption {
  readonly id: string;
  readonly label: string;
  readonly disabled?: boolean;
  /** Heading under which it stands. */
  readonly group?: string;
}

interface ChoiceProps {
  readonly label: string;
  readonly value: string;
  readonly options: readonly ChoiceOption[];
  readonly onChange: (id: string) => void;
  readonly className?: string;
  readonly placeholder?: string;
  readonly disabled?: boolean;
}

/** Beyond so many options one is found by its name. */
const LONG = 16;

/** One of several, from a list. */
export function Choice({
  label,
  value,
  options,
  onChange,
  className,
  placeholder = "select",
  disabled = false,
}: ChoiceProps) {
  if (options.length > LONG)
    return <Combo {...{ label, value, options, onChange, className, placeholder, disabled }} />;
  return <ListedChoice {...{ label, value, options, onChange, className, placeholder, disabled }} />;
}

function ListedChoice({ label, value, options, onChange, className, placeholder, disabled }: ChoiceProps) {
  // A page may have hundreds of choices: the options of one are made when somebody comes near it.
  const [near, setNear] = useState(false);
  const come = () => setNear(true);
  const chosen = options.find((o) => o.id === value);
  return (
    <Select.Root value={value} onValueChange={onChange} onOpenChange={come} disabled={disabled === true}>
      <Select.Trigger
        aria-label={label}
        onFocus={come}
        onPointerEnter={come}
        className={cx(
          "inline-flex h-[24px] min-w-0 items-center justify-between gap-1 rounded-[2px] border border-transparent bg-well px-1.5 hover:border-rule-strong data-[placeholder]:text-ink-faint disabled:opacity-45",
          className,
        )}
      >
        <span className="truncate">
          <Select.Value placeholder={placeholder}>{chosen?.label}</Select.Value>
        </span>
        <Select.Icon>
          <ChevronDown size={13} aria-hidden />
        </Select.Icon>
      </Select.Trigger>
      {near && <Options options={options} />}
    </Select.Root>
  );
}

function Options({ options }: { options: readonly ChoiceOption[] }) {
  const groups = [...new Set(options.map((o) => o.group ?? ""))];
  return (
    <Select.Portal>
      <Select.Content
        position="popper"
        sideOffset={3}
        className="z-50 max-h-80 overflow-hidden rounded-m border border-rule-strong bg-sheet shadow-md"
      >
        <Select.Viewport className="p-1">
          {groups.map((group) => (
            <Select.Group key={group}>
              {group && <Select.Label className="px-2 pt-1.5 pb-0.5 text-s text-ink-faint">{group}</Select.Label>}
              {options
                .filter((o) => (o.group ?? "") === group)
                .map((o) => (
                  <Select.Item
                    key={o.id}
                    value={o.id}
                    disabled={o.disabled === true}
                    className="flex h-6 items-center gap-2 rounded-[2px] pr-3 pl-6 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-tint-cobalt"
                  >
                    <Select.ItemIndicator className="absolute left-2">
                      <Check size={12} aria-hidden />
                    </Select.ItemIndicator>
                    <Select.ItemText>{o.label}</Select.ItemText>
                  </Select.Item>
                ))}
            </Select.Group>
          ))}
        </Select.Viewport>
      </Select.Content>
    </Select.Portal>
  );
}
