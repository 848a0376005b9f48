import { useStore } from "zustand";
import { HANDS_FREE_LIMITS, type HandsFree } from "../../../core/mapping";
import { formatNumber, parseNumber } from "../../../core/params";
import { handsFree, handsFreeOf, setHandsFree } from "../../state/hands-free";
import { useInstrument } from "../../state/use-session";
import { Hint } from "../../widgets/Button";
import { Well } from "../../widgets/Well";

interface Setting {
  readonly id: keyof HandsFree;
  readonly before: string;
  readonly after: string;
  readonly label: string;
  readonly hint: string;
  readonly unit: "decibels" | "seconds" | "semitones";
  readonly step: number;
}

const SETTINGS: readonly Setting[] = [
  {
    id: "threshold",
    before: "Begins",
    after: "above the room,",
    label: "How far above the room a sound begins",
    hint: "How far above the room a sound must rise: less for faint sounds, more in a noisy room",
    unit: "decibels",
    step: 1,
  },
  {
    id: "quiet",
    before: "over after",
    after: "of quiet,",
    label: "Quiet after which a sound is over",
    hint: "How long it must be quiet again until a sound counts as over",
    unit: "seconds",
    step: 0.05,
  },
  {
    id: "longest",
    before: "at the longest",
    after: "",
    label: "Longest sound",
    hint: "What rings longer is cut there; the next is waited for once it rises above what still rings",
    unit: "seconds",
    step: 1,
  },
  {
    id: "tolerance",
    before: "pitch within",
    after: "of the note",
    label: "How far a pitch may be off its note",
    hint: "How far a sound may be off the note that is asked for. 0: its pitch isn’t asked, as of bells and drums",
    unit: "semitones",
    step: 0.1,
  },
];

/** What counts as a sound while the list is walked, and as the note that is asked for; remembered for each instrument. */
export function HandsFreeRow() {
  const id = useInstrument((i) => i.id);
  const values = useStore(handsFree, (s) => handsFreeOf(s, id));
  const set = (setting: keyof HandsFree, value: number) => setHandsFree(id, { [setting]: value });
  return (
    <fieldset
      aria-label="Hands-free"
      className="flex min-h-10 shrink-0 flex-wrap content-center items-center gap-x-2 gap-y-1 border-rule border-b px-3.5 py-1 text-ink-soft"
    >
      {SETTINGS.map(({ id: setting, before, after, label, hint, unit, step }) => {
        const [least, most] = HANDS_FREE_LIMITS[setting];
        const value = values[setting];
        return (
          <span key={setting} className="flex items-center gap-2">
            <Hint text={hint}>
              <span>{before}</span>
            </Hint>
            <Well
              label={label}
              text={setting === "tolerance" && value === 0 ? "not asked" : formatNumber(unit, value)}
              width={66}
              hint={`from ${formatNumber(unit, least)} to ${formatNumber(unit, most)}`}
              onType={(text) => {
                const typed = parseNumber(unit, text);
                if (typed !== null) set(setting, typed);
                return typed !== null;
              }}
              onStep={(steps) => set(setting, value + steps * step)}
            />
            {after !== "" && <span>{after}</span>}
          </span>
        );
      })}
    </fieldset>
  );
}
