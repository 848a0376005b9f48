import { useEffect } from "react";
import type { PlaceInto } from "../../../../core/mapping";
import { grouped, plural } from "../../../../core/params";
import { Station } from "../../../shell/Station";
import { type Command, useCommands } from "../../../state/commands";
import { engine } from "../../../state/engine";
import type { Proposal } from "../../../state/proposal";
import { proposing } from "../../../state/proposing";
import { Button } from "../../../widgets/Button";
import { Choice } from "../../../widgets/Choice";
import { Split } from "../../../widgets/Split";
import { useSoon } from "../../../widgets/use-soon";
import { NamesRead } from "./NamesRead";
import { ProposedField } from "./ProposedField";
import { Why } from "./Why";

const INTO: readonly { readonly id: PlaceInto; readonly label: string }[] = [
  { id: "replace", label: "In place of all zones" },
  { id: "add", label: "Beside what is mapped" },
  { id: "groups", label: "Into a new group" },
  { id: "layer", label: "Into a new layer" },
];

const PLACING_COMMANDS: readonly Command[] = [
  { id: "place", label: "Place what is proposed", chords: ["Mod+Enter"], run: () => proposing.place() },
  {
    id: "not-now",
    label: "Discard the proposal",
    chords: ["Escape"],
    run: () => {
      engine.silence();
      proposing.drop();
    },
  },
];

/** Map while something is to be placed: nothing happens before it is seen and heard. */
export function PlacingStation({ proposal }: { proposal: Proposal }) {
  const { placement, into } = proposal;
  useCommands("Placing", PLACING_COMMANDS);
  useEffect(() => proposing.hear(), []);
  const soon = useSoon();
  const doubts = placement.doubts.length;
  return (
    <Station
      title="Keys × velocity"
      facts={`${grouped(placement.zones.length)} to be placed${doubts > 0 ? ` · ${plural(doubts, "warning")}` : ""}`}
      actions={
        <>
          <Button hint="Nothing is placed; the samples stay" keys="Escape" onClick={() => proposing.drop()}>
            Not now
          </Button>
          <Choice
            label="Where they go"
            value={into}
            options={INTO}
            onChange={(id) => proposing.setInto(id as PlaceInto)}
            className="w-44"
          />
          <Button
            look="primary"
            disabled={placement.zones.length === 0}
            hint="Places them as they stand on the field, as one step"
            keys="Mod+Enter"
            onClick={() => proposing.place()}
          >
            Place {plural(placement.zones.length, "sample")}
          </Button>
        </>
      }
      inspector={soon && <Why proposal={proposal} />}
    >
      <Split
        id="placing"
        label="Height of the names"
        as="rows"
        size="46%"
        least={[120, 110]}
        first={<ProposedField proposal={proposal} />}
        second={soon && <NamesRead proposal={proposal} />}
      />
    </Station>
  );
}
