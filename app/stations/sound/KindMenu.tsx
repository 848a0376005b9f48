import { Command } from "cmdk";
import { Popover } from "radix-ui";
import { type ReactNode, useState } from "react";
import { type UnitKind, unitSpec } from "../../../core/units";
import { rankKind } from "./rank-kind";

/** A button that offers kinds of units: each is explained in a sentence, and found by any word of it. */
export function KindMenu({
  label,
  kinds,
  onPick,
  className,
  children,
}: {
  label: string;
  kinds: readonly UnitKind[];
  onPick: (kind: UnitKind) => void;
  className: string;
  children: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger aria-label={label} title={label} className={className}>
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 w-[360px] rounded-m border border-rule-strong bg-sheet shadow-md"
        >
          <Command label={label} filter={(label, typed, more) => rankKind(label, more?.join(" ") ?? "", typed)}>
            <Command.Input
              autoFocus
              placeholder="find by what it does …"
              className="h-8 w-full border-rule border-b bg-transparent px-2.5 outline-none"
            />
            <Command.List className="max-h-80 overflow-y-auto p-1">
              <Command.Empty className="px-2 py-1.5 text-ink-soft">Nothing does that here.</Command.Empty>
              {kinds.map((kind) => {
                const spec = unitSpec(kind);
                return (
                  <Command.Item
                    key={kind}
                    value={spec.label}
                    keywords={[spec.help]}
                    onSelect={() => {
                      setOpen(false);
                      onPick(kind);
                    }}
                    className="grid grid-cols-[112px_1fr] items-baseline gap-2 rounded-[2px] px-2 py-1 data-[selected=true]:bg-tint-cobalt"
                  >
                    <b className="font-semibold">{spec.label}</b>
                    <span className="text-ink-soft text-s">{spec.help}</span>
                  </Command.Item>
                );
              })}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
