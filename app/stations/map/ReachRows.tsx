import { formatNumber, parseNumber } from "../../../core/params";
import { Row } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";

/** As far as any key lies from another. */
const ANY = 127;

interface ReachRowsProps {
  readonly most: number;
  readonly outer: boolean;
  readonly onMost: (most: number) => void;
  readonly onOuter: (outer: boolean) => void;
}

/** How far roots reach when they are spread: at most so many semitones, and whether the outermost go to the ends. */
export function ReachRows({ most, outer, onMost, onOuter }: ReachRowsProps) {
  const set = (x: number) => onMost(Math.min(ANY, Math.max(0, Math.round(x))));
  return (
    <>
      <Row label="At most" help="Keys further from their root stay silent; “any” is as far as it takes">
        <Well
          label="Semitones from a root at the most"
          text={most >= ANY ? "any" : formatNumber("semitones", most)}
          width={62}
          onType={(text) => {
            if (/^\s*(any|all|)\s*$/i.test(text)) {
              set(ANY);
              return true;
            }
            const parsed = parseNumber("semitones", text);
            if (parsed !== null) set(parsed);
            return parsed !== null;
          }}
          onStep={(steps) => set((most >= ANY ? 12 : most) + steps)}
        />
      </Row>
      <Row label="Outer roots" help="Whether the lowest and the highest root reach to the ends">
        <Toggle hidden label="Outer roots reach to the ends" on={outer} onChange={onOuter} />
      </Row>
    </>
  );
}
