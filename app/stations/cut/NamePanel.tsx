import { useMemo } from "react";
import { proposeNames } from "../../../core/formats";
import { setNaming, type Take } from "../../../core/instrument";
import { NAME_PRESETS, PLACEHOLDERS } from "../../../core/mapping";
import { rememberNaming } from "../../state/fresh-instrument";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { cx } from "../../widgets/class-names";
import { Well } from "../../widgets/Well";

const PROBLEMS = {
  "": "",
  empty: "no name is left",
  illegal: "has a character that files can't have; it becomes a dash",
  clash: "another has the same name; it gets a number",
  long: "too long; it is cut off",
} as const;

/** The pattern by which the kept slices are named, with every name that it gives. */
export function NamePanel({ take }: { take: Take }) {
  const naming = useInstrument((i) => i.naming);
  const kept = useMemo(() => take.slices.filter((s) => s.keep), [take.slices]);
  const names = useMemo(() => proposeNames(naming, take, kept), [naming, take, kept]);
  const problems = names.filter((n) => n.problem !== "").length;
  const set = (pattern: string) => {
    if (pattern.trim() === "" || pattern.length > 200) return false;
    session.commit(setNaming(pattern));
    rememberNaming(pattern);
    return true;
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex h-9 shrink-0 items-center gap-2 border-rule border-b px-3">
        <span className="text-ink-soft">Pattern</span>
        <Well label="Name pattern" text={naming} width={260} onType={set} />
        <Choice
          label="Pattern to begin with"
          value={NAME_PRESETS.includes(naming) ? naming : ""}
          placeholder="presets"
          options={NAME_PRESETS.map((p) => ({ id: p, label: p }))}
          onChange={set}
          className="w-[190px]"
        />
        <span className={cx("ml-auto", problems > 0 ? "text-ochre" : "text-ink-soft")}>
          {problems === 0 ? `${names.length} names, all different` : `${problems} of ${names.length} need mending`}
        </span>
      </div>
      <div className="flex shrink-0 flex-wrap gap-1 border-rule border-b px-3 py-1.5">
        {PLACEHOLDERS.map((p) => (
          <Button
            key={p.id}
            look="quiet"
            className="num !h-5 border-rule px-1.5 text-[11px]"
            hint={`${p.help}; a click adds it`}
            onClick={() => set(`${naming}{${p.id}}`)}
          >{`{${p.id}}`}</Button>
        ))}
      </div>
      <ol
        aria-label="Names"
        className="num grid min-h-0 flex-1 auto-rows-[20px] grid-cols-[repeat(auto-fill,minmax(270px,1fr))] content-start gap-x-4 overflow-y-auto px-3 py-1 text-[12px]"
      >
        {names.map(({ name, problem }, i) => (
          <li key={kept[i]?.id} className="flex min-w-0 gap-2 [content-visibility:auto]" title={PROBLEMS[problem]}>
            <span className="w-7 text-right text-ink-faint">{i + 1}</span>
            <span className={cx("truncate", problem !== "" && "text-ochre underline decoration-wavy")}>
              {name || "(empty)"}
            </span>
            {problem !== "" && <span className="truncate font-sans text-ochre text-s">{PROBLEMS[problem]}</span>}
          </li>
        ))}
      </ol>
    </div>
  );
}
