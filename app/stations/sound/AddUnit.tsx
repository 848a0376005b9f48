import { Command } from "cmdk";
import { Plus } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import type { UnitList } from "../../../core/instrument";
import { kindsAt, type Place, unitSpec } from "../../../core/units";
import { addKind } from "./sound-commands";

/** Adds a unit to a list: each is explained in a sentence, and found by any word of it. */
export function AddUnit({ list, place, where }: { list: UnitList; place: Place; where: string }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        aria-label={`Add to ${where}`}
        title={`Add to ${where}`}
        className="grid size-6 shrink-0 place-items-center rounded-m border border-rule-strong border-dashed text-ink-soft hover:bg-well hover:text-ink"
      >
        <Plus size={13} aria-hidden />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 w-[360px] rounded-m border border-rule-strong bg-sheet shadow-md"
        >
          <Command label={`Add to ${where}`}>
            <Command.Input
              autoFocus
              placeholder="find by what it does …"
              className="h-8 w-full border-rule border-b bg-transparent px-2.5 outline-none"
            />
            <Command.List className="max-h-80 overflow-y-auto p-1">
              <Command.Empty className="px-2 py-1.5 text-ink-soft">Nothing does that here.</Command.Empty>
              {kindsAt(place).map((kind) => {
                const { label, help } = unitSpec(kind);
                return (
                  <Command.Item
                    key={kind}
                    value={`${label} ${help}`}
                    onSelect={() => {
                      setOpen(false);
                      addKind(list, kind);
                    }}
                    className="grid grid-cols-[112px_1fr] items-baseline gap-2 rounded-[2px] px-2 py-1 data-[selected=true]:bg-tint-cobalt"
                  >
                    <b className="font-semibold">{label}</b>
                    <span className="text-ink-soft text-s">{help}</span>
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
