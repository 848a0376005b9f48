import { Command as Palette } from "cmdk";
import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import type { Command } from "./commands";
import { LittleController } from "./LittleController";
import { useOverlays } from "./overlays";

const close = () => useOverlays.setState({ open: null });

/** The panels over the work: shortcuts, command palette, little controller. */
export function Overlays({ commands }: { commands: readonly Command[] }) {
  const open = useOverlays((o) => o.open);
  return (
    <>
      <Panel title="Shortcuts" open={open === "shortcuts"}>
        <dl className="grid max-h-[60vh] grid-cols-[110px_1fr] gap-y-1 overflow-y-auto">
          <dt className="num">A W S E D …</dt>
          <dd>Play notes; with Shift softly</dd>
          {commands
            .filter((c) => c.keys)
            .map((c) => (
              <div key={c.id} className="contents">
                <dt className="num">{c.keys}</dt>
                <dd>{c.label}</dd>
              </div>
            ))}
        </dl>
      </Panel>
      <Panel title="Find a command" open={open === "palette"} bare>
        <Palette label="Commands" className="w-[480px]">
          <Palette.Input
            autoFocus
            placeholder="What would you like to do?"
            className="h-10 w-full border-rule border-b bg-transparent px-4 text-l outline-none"
          />
          <Palette.List className="max-h-80 overflow-y-auto p-1">
            <Palette.Empty className="p-3 text-ink-soft">No command has that in its name.</Palette.Empty>
            {commands.map((c) => (
              <Palette.Item
                key={c.id}
                value={c.label}
                onSelect={() => {
                  close();
                  c.run();
                }}
                className="flex h-8 items-center justify-between rounded-[2px] px-3 data-[selected=true]:bg-tint-cobalt"
              >
                {c.label}
                <span className="num text-ink-faint text-s">{c.keys}</span>
              </Palette.Item>
            ))}
          </Palette.List>
        </Palette>
      </Panel>
      <Panel title="Little controller" open={open === "midi"} modal={false}>
        <LittleController />
      </Panel>
    </>
  );
}

function Panel({
  title,
  open,
  children,
  bare,
  modal = true,
}: {
  title: string;
  open: boolean;
  children: ReactNode;
  bare?: boolean;
  modal?: boolean;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(is) => !is && close()} modal={modal}>
      <Dialog.Portal>
        {modal && <Dialog.Overlay className="fixed inset-0 z-40 bg-ground opacity-60" />}
        <Dialog.Content
          aria-describedby={undefined}
          onInteractOutside={(event) => !modal && event.preventDefault()}
          className={`fixed left-1/2 z-50 -translate-x-1/2 rounded-m border border-ink bg-sheet ${modal ? "top-[14vh] min-w-80" : "bottom-[112px]"} ${bare ? "" : "p-4"}`}
        >
          <Dialog.Title className={bare ? "sr-only" : "mb-3 font-display font-semibold text-l"}>{title}</Dialog.Title>
          {children}
          {!bare && (
            <Dialog.Close aria-label="Close" className="absolute top-3 right-3 rounded-m p-1 hover:bg-well">
              <X size={14} aria-hidden />
            </Dialog.Close>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
