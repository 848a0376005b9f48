import { useMemo } from "react";
import { type Bindable, bindables, faceKind, isPlayed, throughMacros } from "../../../core/face";
import {
  bindsOf,
  boundTo,
  changeFaceItem,
  type FaceItem,
  findParam,
  type Instrument,
  type Move,
} from "../../../core/instrument";
import { formatNumber, formatValue, parseNumber, plural, travelOf, valueAt } from "../../../core/params";
import { commitFace } from "../../state/face-selection";
import { freshId } from "../../state/ids";
import { tell } from "../../state/notices";
import { session } from "../../state/session";
import { typedValue } from "../../state/typed-value";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row, Section } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";
import { listenFor, listenNoMore, useListening } from "./listen";

/** Parameters that are listed one by one; of more only the first and all together. */
const LISTED = 12;

/** What an item moves: found by typing a part of its name, for columns a whole row of partials at once; each over its own range. */
export function MovesSection({ instrument, item }: { instrument: Instrument; item: FaceItem }) {
  const { takes, most } = faceKind(item.kind);
  const list = useMemo(
    () => (takes === "nothing" ? [] : bindables(instrument, takes, most > 2)),
    [instrument, takes, most],
  );
  const used = useMemo(
    () => new Set(instrument.face.items.filter((i) => i.id !== item.id).flatMap(bindsOf)),
    [instrument.face.items, item.id],
  );
  const options = list
    .filter((b) => b.addresses.length <= most)
    .map(({ id, label, group, addresses }) => ({
      id,
      label: addresses.length === 1 && used.has(addresses[0] ?? "") ? `${label} ·` : label,
      group,
    }));
  const binds = bindsOf(item);
  const waits = useListening((l) => l.item === item.id);
  const bind = (name: string, next: readonly string[]) =>
    commitFace(changeFaceItem(item.id, name, { moves: boundTo(item, next.slice(0, most)).moves }));
  const between = () => {
    const edit = throughMacros(instrument, item, () => freshId());
    if (edit) session.commit(edit);
    else tell("warning", "No route can move all of these, or there would be more macros than an instrument has.");
  };
  const addressesOf = (id: string) => list.find((b) => b.id === id)?.addresses ?? [];
  const bank = bankOf(list, binds);
  const rest = binds.slice(1);
  const title = most > 2 && binds.length !== 1 ? `Moves ${plural(binds.length, "thing")}` : "Moves";
  return (
    <Section title={title}>
      <Row
        label={item.kind === "xy" ? "Across" : most > 2 ? "First" : "Moves"}
        help="The macro or parameter that it moves; what another item moves already has a dot"
      >
        <Choice
          label="Bound to"
          placeholder="not bound"
          value={bank?.id ?? binds[0] ?? ""}
          options={options}
          onChange={(id) => bind("Bind", [...addressesOf(id), ...(addressesOf(id).length > 1 || bank ? [] : rest)])}
          className="flex-1"
        />
      </Row>
      {item.kind === "xy" && (
        <Row label="Up">
          <Choice
            label="Bound up"
            placeholder="not bound"
            value={binds[1] ?? ""}
            options={options}
            onChange={(id) => bind("Bind", [binds[0] ?? id, ...addressesOf(id)])}
            className="flex-1"
          />
        </Row>
      )}
      {most > 2 && binds.length > 0 && (
        <Row label="One more" help="What goes along with the first, over a range of its own">
          <Choice
            label="Bound to one more"
            placeholder="select"
            value=""
            options={options}
            onChange={(id) => bind("Bind one more", [...binds, ...addressesOf(id)])}
            className="flex-1"
          />
        </Row>
      )}
      {binds.length > LISTED || bank ? (
        <Range instrument={instrument} item={item} moves={item.moves} />
      ) : (
        item.moves.map((move) => (
          <div key={move.address} className={binds.length > 1 ? "mb-1 border-rule border-l-2 pl-2" : ""}>
            {binds.length > 1 && (
              <div className="flex items-center justify-between gap-2">
                <span className="truncate text-s">{findParam(instrument, move.address)?.label ?? move.address}</span>
                {item.kind === "random" && (
                  <Toggle
                    label="Fixed"
                    on={move.fixed}
                    onChange={(fixed) =>
                      commitFace(
                        changeFaceItem(item.id, fixed ? "Fix" : "Unfix", { moves: changed(item, [move], { fixed }) }),
                      )
                    }
                  />
                )}
                <Button
                  aria-label={`Move ${findParam(instrument, move.address)?.label ?? "it"} no longer`}
                  onClick={() =>
                    bind(
                      "Bind one less",
                      binds.filter((b) => b !== move.address),
                    )
                  }
                >
                  −
                </Button>
              </div>
            )}
            <Range instrument={instrument} item={item} moves={[move]} />
          </div>
        ))
      )}
      <div className="mb-1 flex gap-2">
        <Button
          pressed={waits}
          hint="Learn: it will move whatever you move next, at any station"
          onClick={() => (waits ? listenNoMore() : listenFor(item.id))}
        >
          Learn
        </Button>
        {binds.length > 0 && <Button onClick={() => bind("Unbind", [])}>Unbind</Button>}
        {binds.length > 0 && !binds.some((b) => b.startsWith("macros/")) && (
          <Button
            hint="A macro for each of them: the item moves the macros, and each macro can move more by routes of its own"
            onClick={between}
          >
            Insert macros
          </Button>
        )}
      </div>
      {binds.length === 0 && !isPlayed(item) && (
        <p className="text-ochre text-s">
          This {faceKind(item.kind).label.toLowerCase()} does nothing until it is bound.
        </p>
      )}
    </Section>
  );
}

/** The whole row of parameters that an item moves exactly, if it is one. */
const bankOf = (list: readonly Bindable[], binds: readonly string[]): Bindable | undefined =>
  list.find((b) => b.addresses.length > 1 && b.addresses.length === binds.length && b.addresses[0] === binds[0]);

/** An item's moves with some of them changed. */
const changed = (item: FaceItem, these: readonly Move[], change: Partial<Move>): readonly Move[] => {
  const addresses = new Set(these.map((m) => m.address));
  return item.moves.map((m) => (addresses.has(m.address) ? { ...m, ...change } : m));
};

const share = (value: number): number => Math.min(1, Math.max(0, value));

/** The part of the travel that it goes over, in the values of what is moved, and how the way between is bent. */
function Range({ instrument, item, moves }: { instrument: Instrument; item: FaceItem; moves: readonly Move[] }) {
  const [move] = moves;
  const spec = move && findParam(instrument, move.address)?.spec;
  if (!move || spec?.type !== "number" || spec.unit === "switch") return null;
  const name = moves.length === 1 && item.moves.length > 1 && move !== item.moves[0] ? ` of ${spec.label}` : "";
  const set = (change: Partial<Move>, gesture: string | null = null): true => {
    commitFace(changeFaceItem(item.id, "Set range", { moves: changed(item, moves, change) }), gesture);
    return true;
  };
  const end = (id: "from" | "to", label: string) => (
    <Well
      label={`${label}${name}`}
      text={formatValue(spec, valueAt(spec, move[id]))}
      width={66}
      align="right"
      onType={(text) => {
        const value = typedValue(spec, text);
        return value !== null && set({ [id]: travelOf(spec, Number(value)) });
      }}
      onStep={(steps) => set({ [id]: share(move[id] + steps * 0.01) }, "step")}
    />
  );
  return (
    <>
      <Row label="Range" help="From which end to which it goes; from above downward it goes the other way round">
        {end("from", "Goes from")}
        <span className="-mx-1 text-ink-soft">–</span>
        {end("to", "Goes to")}
      </Row>
      <Row label="Bend" help="How the way between is bent: 0 straight, above it fast at first, below it slow at first">
        <Well
          label={`Bend of the way${name}`}
          text={formatNumber("percent", move.bend)}
          width={76}
          align="right"
          onType={(text) => {
            const value = parseNumber("percent", text);
            return value !== null && set({ bend: Math.min(1, Math.max(-1, value)) });
          }}
          onStep={(steps) => set({ bend: Math.min(1, Math.max(-1, move.bend + steps * 0.05)) }, "step")}
        />
      </Row>
    </>
  );
}
