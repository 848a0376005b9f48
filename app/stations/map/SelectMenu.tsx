import { Popover } from "radix-ui";
import { memo, useState } from "react";
import { nameOfNote, parseNote } from "../../../core/audio";
import {
  type ChoosingRule,
  RULE_FIELDS,
  RULE_TESTS,
  type RuleField,
  type RuleTest,
  zonesWhere,
} from "../../../core/mapping";
import { plural } from "../../../core/params";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { SELECT_COMMANDS } from "./map-commands";

/** Ways to select zones: by what they share with those that are selected, or by a rule. */
export const SelectMenu = memo(function SelectMenu() {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>Select</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={8}
          aria-label="Select zones"
          className="z-40 w-72 rounded-m border border-ink bg-sheet p-4"
        >
          <RuleForm />
          <h2 className="mt-3 border-rule border-t pt-2 font-display font-semibold">From what is selected</h2>
          <AlikeList />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
});

/** What can be selected with what is; asked when it is opened. */
const AlikeList = () =>
  SELECT_COMMANDS.map((command) => {
    const why = command.why?.() ?? null;
    return (
      <Popover.Close key={command.id} asChild>
        <Button
          look="quiet"
          className="w-full justify-start!"
          disabled={why !== null}
          hint={why ?? undefined}
          onClick={command.run}
        >
          {command.label}
        </Button>
      </Popover.Close>
    );
  });

const FIELDS = Object.entries(RULE_FIELDS).map(([id, { label }]) => ({ id, label }));
const TESTS = RULE_TESTS.map((id) => ({ id, label: id }));

/** A value as a field of a rule reads it; null where it can't be. */
function valueIn(field: RuleField, text: string): number | string | null {
  const { kind } = RULE_FIELDS[field];
  if (kind === "text") return text.trim();
  if (kind === "note") return parseNote(text);
  const number = Number(text.trim().replace(",", ".").replace("−", "-"));
  return text.trim() !== "" && Number.isFinite(number) ? number : null;
}

const shown = (field: RuleField, value: number | string): string =>
  RULE_FIELDS[field].kind === "note" ? nameOfNote(Number(value)) : String(value);

/** What a field's value is at first. */
const usual = (field: RuleField): number | string =>
  (({ layer: 2, root: 60, low: 60, high: 60, velocity: 64, repeat: 2, off: 20, seconds: 0.5, loops: 0 }) as const)[
    field as "layer"
  ] ?? (RULE_FIELDS[field].kind === "text" ? "" : 0);

/** A rule and how many zones it finds. */
function RuleForm() {
  const layers = useInstrument((i) => i.layers);
  const [rule, setRule] = useState<ChoosingRule>({ field: "off", test: "above", value: 20 });
  const { field, test, value } = rule;
  const { instrument } = session;
  const found = instrument ? zonesWhere({ ...instrument, layers }, rule) : new Set<string>();
  const text = RULE_FIELDS[field].kind === "text";
  return (
    <>
      <h2 className="mb-2 font-display font-semibold">Select by rule</h2>
      <Row label="Where">
        <Choice
          label="What is looked at"
          value={field}
          options={FIELDS}
          onChange={(id) =>
            setRule({
              field: id as RuleField,
              test: RULE_FIELDS[id as RuleField].kind === "text" ? "is" : test,
              value: usual(id as RuleField),
            })
          }
          className="flex-1"
        />
      </Row>
      <Row label="">
        <Choice
          label="How it is compared"
          value={test}
          options={
            text ? TESTS.slice(0, 2).map((t) => ({ ...t, label: t.id === "is" ? "holds" : "doesn’t hold" })) : TESTS
          }
          onChange={(id) => setRule({ ...rule, test: id as RuleTest })}
          className="w-24"
        />
        <Well
          label="With what"
          text={shown(field, value)}
          width={90}
          onType={(typed) => {
            const read = valueIn(field, typed);
            if (read !== null) setRule({ ...rule, value: read });
            return read !== null;
          }}
        />
      </Row>
      <div className="mt-2 flex gap-2">
        <Popover.Close asChild>
          <Button look="primary" disabled={found.size === 0} onClick={() => setView({ zoneIds: found })}>
            Select {plural(found.size, "zone")}
          </Button>
        </Popover.Close>
        <Popover.Close asChild>
          <Button
            disabled={found.size === 0}
            hint="Of the selected ones keeps those for which it holds"
            onClick={() => setView({ zoneIds: new Set([...useView.getState().zoneIds].filter((id) => found.has(id))) })}
          >
            Keep only
          </Button>
        </Popover.Close>
      </div>
    </>
  );
}
