import { Command as Palette } from "cmdk";
import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { chordText } from "../state/chords";
import { useScopes } from "../state/commands";
import { LittleController } from "./LittleController";
import { useOverlays } from "./overlays";
import { Reference } from "./Reference";
import { rankOf } from "./rank";

const close = () => useOverlays.setState({ open: null });

/** The panels over the work: shortcuts, reference, command palette, on-screen controller. */
export function Overlays() {
  const open = useOverlays((o) => o.open);
  return (
    <>
      <Panel title="Shortcuts" open={open === "shortcuts"}>
        <Shortcuts />
      </Panel>
      <Panel title="Reference" open={open === "reference"}>
        <Reference />
      </Panel>
      <Panel title="Find a command" open={open === "palette"} bare>
        <CommandPalette />
      </Panel>
      <Panel title="On-screen controller" open={open === "midi"} modal={false}>
        <LittleController />
      </Panel>
    </>
  );
}

/** Every command that has keys, by where it can be used. */
function Shortcuts() {
  const scopes = useScopes((s) => s.scopes);
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keys
    <div tabIndex={0} className="max-h-[64vh] overflow-y-auto">
      <div className="columns-2 gap-8">
        {scopes.map((scope) => {
          const keyed = scope.commands.filter((c) => c.chords);
          if (keyed.length === 0) return null;
          return (
            <section key={scope.name} className="mb-3 break-inside-avoid">
              <h3 className="mb-1 text-ink-soft text-s">{scope.name}</h3>
              <dl className="grid grid-cols-[104px_minmax(0,270px)] gap-y-0.5">
                {keyed.map((c) => (
                  <div key={c.id} className="contents">
                    <dt className="num">{chordText(c.chords?.[0] ?? "")}</dt>
                    <dd>{c.label}</dd>
                  </div>
                ))}
              </dl>
            </section>
          );
        })}
        <section className="mb-3 break-inside-avoid">
          <h3 className="mb-1 text-ink-soft text-s">Playing</h3>
          <p>The letters from the left, by where they lie, play notes; with Shift softly.</p>
        </section>
      </div>
    </div>
  );
}

/** Finds any command by its name and does it; what can't be done at present says why. */
function CommandPalette() {
  const scopes = useScopes((s) => s.scopes);
  return (
    <Palette label="Commands" filter={rankOf} className="w-[520px]">
      <Palette.Input
        autoFocus
        placeholder="What would you like to do?"
        className="h-10 w-full border-rule border-b bg-transparent px-4 text-l outline-none"
      />
      <Palette.List className="max-h-[56vh] overflow-y-auto p-1">
        <Palette.Empty className="p-3 text-ink-soft">No command has that in its name.</Palette.Empty>
        {scopes.map((scope) => (
          <Palette.Group
            key={scope.name}
            heading={scope.name}
            className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-1.5 [&_[cmdk-group-heading]]:text-ink-soft [&_[cmdk-group-heading]]:text-s"
          >
            {scope.commands.map((c) => {
              const why = c.why?.() ?? null;
              return (
                <Palette.Item
                  key={c.id}
                  value={`${scope.name} ${c.label}`}
                  disabled={why !== null}
                  onSelect={() => {
                    close();
                    c.run();
                  }}
                  className="flex h-8 items-center justify-between gap-3 rounded-[2px] px-3 data-[disabled=true]:text-ink-soft data-[selected=true]:bg-tint-cobalt"
                >
                  <span className="truncate">{c.label}</span>
                  <span className="num shrink-0 truncate text-ink-soft text-s">
                    {why ?? (c.chords?.[0] ? chordText(c.chords[0]) : "")}
                  </span>
                </Palette.Item>
              );
            })}
          </Palette.Group>
        ))}
      </Palette.List>
    </Palette>
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
