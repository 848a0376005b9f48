import { Popover } from "radix-ui";
import { useStore } from "zustand";
import { formatNumber, parseNumber } from "../../../core/params";
import { ANY_LOOP, type LoopWishes, loopWishes } from "../../state/loops";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import type { Span } from "../../widgets/wave-span";

const KINDS = [
  { id: "guess", label: "whatever it is" },
  { id: "tone", label: "a tone: whole periods" },
  { id: "texture", label: "a texture: no periods" },
  { id: "beat", label: "a beat: whole bars" },
];
const PREFERS = [
  { id: "any", label: "about a second and more" },
  { id: "short", label: "short ones" },
  { id: "long", label: "long ones" },
];

const PLACES = [
  { id: "all", label: "all that it plays" },
  { id: "shown", label: "what the wave shows now" },
];

/** What is wished, in a word or two. */
const wishText = (wishes: LoopWishes): string =>
  JSON.stringify(wishes) === JSON.stringify(ANY_LOOP) ? "Search settings" : "Search settings changed";

/** Which loops are looked for: here, and for all zones. */
export function WishMenu({ zone, span }: { zone: string; span: Span }) {
  const wishes = useStore(loopWishes);
  const set = (next: Partial<LoopWishes>) => loopWishes.setState(next);
  const length = (id: "shortest" | "longest", label: string) => (
    <Row label={label}>
      <Well
        label={`${label} loop`}
        text={wishes[id] === null ? "as it suits" : formatNumber("seconds", wishes[id])}
        width={104}
        align="right"
        hint="A time, such as 200 ms; nothing for what suits the sound"
        onType={(text) => {
          if (/^\s*(as.*)?$/.test(text)) {
            set({ [id]: null });
            return true;
          }
          const seconds = parseNumber("seconds", text);
          if (seconds === null || !(seconds > 0 && seconds <= 600)) return false;
          if (id === "shortest" && wishes.longest !== null && seconds >= wishes.longest) return false;
          if (id === "longest" && wishes.shortest !== null && seconds <= wishes.shortest) return false;
          set({ [id]: seconds });
          return true;
        }}
      />
    </Row>
  );
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button hint="Which loops are looked for, here and for all zones">{wishText(wishes)}</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={8}
          align="end"
          aria-label="Which loops are looked for"
          className="z-40 w-72 rounded-m border border-ink bg-sheet p-4"
        >
          <Row label="Type">
            <Choice
              label="What the sound is taken for"
              value={wishes.kind}
              options={KINDS}
              onChange={(kind) => set({ kind: kind as LoopWishes["kind"] })}
              className="flex-1"
            />
          </Row>
          <Row label="Length">
            <Choice
              label="Which lengths come first"
              value={wishes.prefer}
              options={PREFERS}
              onChange={(prefer) => set({ prefer: prefer as LoopWishes["prefer"] })}
              className="flex-1"
            />
          </Row>
          <Row label="Range" help="Where it is searched; all other zones are searched wholly">
            <Choice
              label="Where loops are looked for"
              value={wishes.within?.zone === zone ? "shown" : "all"}
              options={PLACES}
              onChange={(id) =>
                set({
                  within: id === "all" ? null : { zone, start: Math.round(span.from), end: Math.round(span.to) },
                })
              }
              className="flex-1"
            />
          </Row>
          {length("shortest", "Shortest")}
          {length("longest", "Longest")}
          <div className="mt-2 flex justify-end">
            <Button disabled={wishText(wishes) === "Search settings"} onClick={() => loopWishes.setState(ANY_LOOP)}>
              Reset
            </Button>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
