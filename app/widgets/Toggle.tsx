import { Switch } from "radix-ui";
import { useId } from "react";

/** On or off, with its label. */
export function Toggle({
  label,
  on,
  onChange,
  hidden,
  disabled,
}: {
  label: string;
  on: boolean;
  onChange: (on: boolean) => void;
  hidden?: boolean;
  disabled?: boolean;
}) {
  const id = useId();
  return (
    <label htmlFor={id} className="inline-flex h-7 items-center gap-2">
      <Switch.Root
        id={id}
        checked={on}
        onCheckedChange={onChange}
        disabled={disabled === true}
        aria-label={label}
        className="relative h-[16px] w-[30px] rounded-[2px] border border-rule-strong bg-well data-[state=checked]:border-ink data-[state=checked]:bg-ink"
      >
        <Switch.Thumb className="block h-[12px] w-[12px] translate-x-[1px] bg-ink transition-transform data-[state=checked]:translate-x-[15px] data-[state=checked]:bg-sheet" />
      </Switch.Root>
      {!hidden && <span>{label}</span>}
    </label>
  );
}
