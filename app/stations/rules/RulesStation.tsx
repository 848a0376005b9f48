import { useStore } from "zustand";
import { changeRules } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { EXAMPLE_SCRIPT } from "../../../core/rules";
import { Empty, Station } from "../../shell/Station";
import { engine } from "../../state/engine";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { Section } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";
import { ScriptEditor } from "./ScriptEditor";

/** Rules: a script that sees every note before a sample is chosen. */
export function RulesStation() {
  const rules = useInstrument((i) => i.rules);
  const problem = useStore(engine.store, (s) => s.ruleProblem);
  const tried = useStore(engine.store, (s) => s.rulesTried);
  const begin = () => {
    session.keepBefore("a script ran");
    session.commit(changeRules({ script: EXAMPLE_SCRIPT, on: true }));
  };
  const turn = (on: boolean) => {
    if (on) session.keepBefore("a script ran");
    session.commit(changeRules({ on }));
  };
  const lines = rules.script.split("\n").length;
  return (
    <Station
      title="Rules"
      facts={
        rules.script === ""
          ? null
          : `${plural(lines, "line")} · ${rules.on ? (tried ? "being tried …" : problem ? "failing" : "running") : "off"}`
      }
      actions={<Toggle label="Rules on" on={rules.on} onChange={turn} />}
      inspector={
        <>
          <h2 className="mb-2 font-display font-semibold text-l">What a rule can do</h2>
          <Section title="start(note): a key went down">
            <p className="text-ink-soft">
              Change <code className="num">note.key</code>, <code className="num">note.velocity</code> (1–127),{" "}
              <code className="num">note.delay</code> and <code className="num">note.length</code> (seconds). Return{" "}
              <code className="num">false</code> to drop it.
            </p>
          </Section>
          <Section title="end(note): a key went up">
            <p className="text-ink-soft">Optional; its notes are released by themselves.</p>
          </Section>
          <Section title="play({ key, velocity, delay, length })">
            <p className="text-ink-soft">Adds a note. Without a length it ends with the key.</p>
          </Section>
          <Section title="random(low, high)">
            <p className="text-ink-soft">The same series for the same seed, so that a bounce can be repeated.</p>
            <div className="mt-1.5 flex items-center gap-2">
              Seed
              <Well
                label="Seed"
                text={String(rules.seed)}
                width={80}
                onType={(text) => {
                  const seed = Number(text);
                  if (!Number.isInteger(seed) || seed < 0 || seed > 4294967295) return false;
                  session.commit(changeRules({ seed }));
                  return true;
                }}
                onStep={(steps) => session.commit(changeRules({ seed: Math.max(0, rules.seed + steps) }))}
              />
            </div>
          </Section>
          <p className="mb-3 text-ink-faint text-s">
            The script can reach nothing of the page, the network or the clock. One that runs too long is ended, and the
            note sounds as played. The note trace says what a rule changed.
          </p>
          {rules.script.trim() !== EXAMPLE_SCRIPT.trim() && <Button onClick={begin}>Use the example</Button>}
        </>
      }
    >
      {rules.script === "" && !rules.on ? (
        <Empty title="No rules">
          <p className="mb-4">
            A rule is a few lines of JavaScript that see every note. The example makes repeated notes differ a little.
          </p>
          <Button look="primary" onClick={begin}>
            Begin with the example
          </Button>
        </Empty>
      ) : (
        <>
          <ScriptEditor
            script={rules.script}
            problem={rules.on ? problem : null}
            onChange={(script) => session.commit(changeRules({ script }), "typing-rules")}
          />
          <p
            role="status"
            className={`flex min-h-8 shrink-0 items-center border-rule border-t px-3.5 ${problem && rules.on ? "bg-tint-vermilion" : ""}`}
          >
            {!rules.on
              ? "The rules are off: notes sound as played."
              : tried
                ? "The script is being tried …"
                : problem
                  ? `${problem.line === null ? "" : `Line ${problem.line}: `}${problem.reason}`
                  : "The script runs. Play a key and watch the note trace."}
          </p>
        </>
      )}
    </Station>
  );
}
