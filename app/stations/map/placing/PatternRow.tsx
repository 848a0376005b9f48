import { Save, Trash2 } from "lucide-react";
import { Popover } from "radix-ui";
import { type KeyboardEvent, useEffect, useState } from "react";
import { ROLES, tokenOf } from "../../../../core/mapping";
import { forgetNamePattern, loadNamePatterns, saveNamePattern, useNamePatterns } from "../../../state/name-patterns";
import { proposing } from "../../../state/proposing";
import { Button } from "../../../widgets/Button";
import { cx } from "../../../widgets/class-names";

/** The pattern by which the names are made: typed over, saved, and used again. */
export function PatternRow({ pattern }: { pattern: string }) {
  const [draft, setDraft] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const saved = useNamePatterns((s) => s.saved);
  useEffect(() => void loadNamePatterns(), []);
  // Another reading has another pattern: what was being typed is about the one before.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only another pattern counts
  useEffect(() => {
    setDraft(null);
    setWrong(null);
  }, [pattern]);
  const read = async (text: string) => {
    const problem = await proposing.readBy(text);
    setWrong(problem);
    setDraft(problem === null ? null : text);
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === "Enter" && !event.ctrlKey && !event.metaKey) void read(draft ?? pattern);
    else if (event.key === "Escape" && draft !== null) {
      setDraft(null);
      setWrong(null);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const isSaved = saved?.includes(pattern) ?? false;
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-0.5 pb-1 text-s">
      <span className="text-ink-soft">pattern</span>
      <input
        aria-label="Pattern of the names"
        aria-invalid={wrong !== null}
        title={`${ROLES.map(tokenOf).join(" ")} and * for anything; Enter reads the names by it`}
        value={draft ?? pattern}
        spellCheck={false}
        onChange={(event) => setDraft(event.target.value)}
        onKeyDown={keys}
        className={cx(
          "num h-6 min-w-0 flex-1 rounded-[2px] border bg-well px-1.5 text-[12px]",
          wrong ? "border-vermilion" : "border-transparent hover:border-rule-strong",
        )}
      />
      <Button
        look="quiet"
        className="!h-6 !px-1"
        aria-label="Save the pattern"
        disabled={pattern === "" || isSaved}
        hint={isSaved ? "It is saved" : "Keeps it in this browser, to be used for other samples"}
        onClick={() => void saveNamePattern(pattern)}
      >
        <Save size={13} aria-hidden />
      </Button>
      {saved !== null && saved.length > 0 && (
        <Popover.Root>
          <Popover.Trigger asChild>
            <Button look="quiet" className="!h-6 !px-1">
              Saved {saved.length}
            </Button>
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              sideOffset={4}
              collisionPadding={8}
              aria-label="Saved patterns"
              className="z-40 max-h-80 w-96 overflow-y-auto rounded-m border border-ink bg-sheet p-1"
            >
              {saved.map((text) => (
                <div key={text} className="flex items-center">
                  <Popover.Close asChild>
                    <button
                      type="button"
                      className="num min-w-0 flex-1 truncate rounded-s px-2 py-1 text-left hover:bg-well"
                      onClick={() => void read(text)}
                    >
                      {text}
                    </button>
                  </Popover.Close>
                  <Button
                    look="quiet"
                    className="px-1"
                    aria-label={`Forget ${text}`}
                    onClick={() => void forgetNamePattern(text)}
                  >
                    <Trash2 size={13} aria-hidden />
                  </Button>
                </div>
              ))}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
      {wrong && (
        <span role="alert" className="w-full text-vermilion">
          {wrong}
        </span>
      )}
    </div>
  );
}
