import { Ellipsis } from "lucide-react";
import { ContextMenu, DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";
import { chordText } from "../state/chords";
import type { Command } from "../state/commands";
import { Button } from "./Button";

const PANEL = "z-50 min-w-52 rounded-m border border-rule-strong bg-sheet p-1 shadow-md";
const ITEM =
  "flex h-7 items-center justify-between gap-6 rounded-[2px] px-2.5 outline-none data-[disabled]:text-ink-soft data-[highlighted]:bg-tint-cobalt";

/** The lines of a menu. They are made when it opens, so that what can be done is asked then. */
function Lines({ commands, Item }: { commands: readonly Command[]; Item: typeof ContextMenu.Item }) {
  return commands.map((command) => {
    const why = command.why?.() ?? null;
    return (
      <Item key={command.id} disabled={why !== null} onSelect={command.run} className={ITEM}>
        <span className="truncate">{command.label}</span>
        <span className="num shrink-0 text-ink-soft text-s">
          {why ?? (command.chords?.[0] ? chordText(command.chords[0]) : "")}
        </span>
      </Item>
    );
  });
}

/** What can be done with something, at the place where it was asked for: the second button, or the menu key. */
export function WithMenu({ commands, children }: { commands: readonly Command[]; children: ReactNode }) {
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className={PANEL} collisionPadding={8}>
          <Lines commands={commands} Item={ContextMenu.Item} />
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}

/** The same behind a button, for touch and keyboard. */
export function MenuButton({ label, commands }: { label: string; commands: readonly Command[] }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={label}
        title={label}
        className="grid size-7 place-items-center rounded-m text-ink-soft hover:bg-well hover:text-ink"
      >
        <Ellipsis size={15} aria-hidden />
      </DropdownMenu.Trigger>
      <MenuPanel commands={commands} />
    </DropdownMenu.Root>
  );
}

/** The same behind a button with a word on it. */
export function WordMenu({ word, commands }: { word: string; commands: readonly Command[] }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button>{word}</Button>
      </DropdownMenu.Trigger>
      <MenuPanel commands={commands} />
    </DropdownMenu.Root>
  );
}

/** The lines of a menu that hangs from a button. */
function MenuPanel({ commands }: { commands: readonly Command[] }) {
  return (
    <DropdownMenu.Portal>
      <DropdownMenu.Content className={PANEL} align="end" sideOffset={4} collisionPadding={8}>
        <Lines commands={commands} Item={DropdownMenu.Item} />
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  );
}
