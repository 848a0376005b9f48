import { changeUnit, linkProblem, type Unit } from "../../core/instrument";
import { unitSpec } from "../../core/units";
import { session } from "../state/session";
import { useInstrument } from "../state/use-session";
import { Choice } from "../widgets/Choice";
import { Row } from "../widgets/ParamControl";

/** Stands for no layer: no id can be this. */
const NONE = "·";

const WORDS = {
  notes: {
    label: "Layer input",
    help: "Layer whose voices are the input, behind their envelope and level",
    choice: "Layer input",
    none: "None",
    add: "Add another layer first: it can be the input.",
  },
  sum: {
    label: "Sidechain",
    help: "What is detected: the sound itself, or a layer behind its inserts, heard or not",
    choice: "Sidechain input",
    none: "The sound itself",
    add: "",
  },
} as const;

/** Which layer's sound a unit takes in, note by note or as a whole. */
export function FromLayer({ address, unit }: { address: string; unit: Unit }) {
  const layers = useInstrument((i) => i.layers);
  const problem = useInstrument((i) => linkProblem(i, address));
  const own = address.split("/")[1];
  const words = WORDS[unitSpec(unit.kind).links ?? "notes"];
  const others = layers.filter((l) => l.id !== own);
  const set = (from: string) => {
    const name = layers.find((l) => l.id === from)?.name;
    session.commit({
      name: name ? `Route ${name} into ${unit.name}` : `Route no layer to ${unit.name}`,
      apply: (doc) =>
        changeUnit(doc, address, ({ from: _before, ...rest }) => (from === NONE ? rest : { ...rest, from })),
    });
  };
  return (
    <>
      <Row label={words.label} help={words.help}>
        <Choice
          label={words.choice}
          value={unit.from ?? NONE}
          placeholder={words.none}
          options={[{ id: NONE, label: words.none }, ...others.map((l) => ({ id: l.id, label: l.name }))]}
          onChange={set}
          className="min-w-0 flex-1"
        />
      </Row>
      {others.length === 0 && words.add && <p className="mb-1 text-ink-soft text-s">{words.add}</p>}
      {problem && <p className="mb-1 text-s text-vermilion">{problem}</p>}
    </>
  );
}
