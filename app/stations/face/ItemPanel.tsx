import { useMemo } from "react";
import { bindables, faceKind, formOf, isControl } from "../../../core/face";
import {
  bindsOf,
  boundTo,
  changeFaceItem,
  changeFaceItems,
  type FaceItem,
  findParam,
  type Instrument,
  TONES,
} from "../../../core/instrument";
import { formatValue, parseNumber, parseValue, plural, travelOf, valueAt } from "../../../core/params";
import { session } from "../../state/session";
import { useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { MenuButton, WordMenu } from "../../widgets/CommandMenu";
import { Row, Section } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";
import { BindTree } from "./BindTree";
import { ARRANGE_COMMANDS, FACE_COMMANDS } from "./face-commands";
import { chosenIds } from "./face-selection";
import { listenFor, listenNoMore, useListening } from "./listen";

/** The item that is chosen: what it says, what it moves, how it looks, where it stands, when it is there. */
export function ItemPanel({ instrument }: { instrument: Instrument }) {
  const selected = useView((v) => v.faceItem);
  const more = useView((v) => v.faceMore);
  const item = instrument.face.items.find((i) => i.id === selected);
  if (!item)
    return (
      <>
        <p className="text-ink-soft text-s">
          Choose an item to change it; a frame drawn over the page chooses several, Shift adds. Drag to move: it settles
          on edges, centres and gaps, with Alt anywhere. Arrow keys move by one pixel, with Shift by eight.
        </p>
        <BindTree instrument={instrument} />
      </>
    );
  if (more.size > 0)
    return (
      <>
        <h2 className="mb-2 font-display font-semibold text-l">{plural(more.size + 1, "item")}</h2>
        <div className="mb-3 flex flex-wrap gap-2">
          <WordMenu word="Arrange" commands={ARRANGE_COMMANDS} />
          <WordMenu word="Do" commands={FACE_COMMANDS} />
        </div>
        <Places instrument={instrument} item={item} />
      </>
    );
  return <OneItem key={item.id} instrument={instrument} item={item} />;
}

function OneItem({ instrument, item }: { instrument: Instrument; item: FaceItem }) {
  const { label, help, forms } = faceKind(item.kind);
  const change = (name: string, fields: Partial<FaceItem>): true => {
    session.commit(changeFaceItem(item.id, name, fields));
    return true;
  };
  return (
    <>
      <div className="mb-1 flex items-center justify-between gap-2">
        <h2 className="truncate font-display font-semibold text-l">{label}</h2>
        <MenuButton label="What can be done with the item" commands={FACE_COMMANDS} />
      </div>
      <p className="mb-2 text-ink-soft text-s">{help}</p>
      {isControl(item.kind) && <Moves instrument={instrument} item={item} />}
      <Section title="Says">
        <Row label="Text">
          <Well label="Text" text={item.text} width={148} onType={(text) => change("Set text", { text })} />
        </Row>
        <Row label="Name" help="What it is called in the outline">
          <Well label="Name of the item" text={item.name} width={148} onType={(name) => change("Set name", { name })} />
        </Row>
        {forms && (
          <Row label="Form">
            <Choice
              label="Form"
              value={formOf(item)}
              options={forms}
              onChange={(form) => change("Set form", { form })}
              className="flex-1"
            />
          </Row>
        )}
        {(item.kind === "label" || item.kind === "shape") && (
          <Row label="Tone">
            <Choice
              label="Tone"
              value={item.tone}
              options={TONES.map((id) => ({
                id,
                label: { ink: "Ink", soft: "Soft", spot: "Spot colour", fill: "As the wells" }[id],
              }))}
              onChange={(tone) => change("Set tone", { tone: tone as FaceItem["tone"] })}
              className="flex-1"
            />
          </Row>
        )}
      </Section>
      <Places instrument={instrument} item={item} />
      <Condition instrument={instrument} item={item} />
    </>
  );
}

/** What an item moves: found by typing a part of its name; for columns a whole row of partials at once. */
function Moves({ instrument, item }: { instrument: Instrument; item: FaceItem }) {
  const { takes, most } = faceKind(item.kind);
  const list = useMemo(
    () => (takes === "nothing" ? [] : bindables(instrument, takes, most > 2)),
    [instrument, takes, most],
  );
  const used = useMemo(() => new Set(instrument.face.items.flatMap(bindsOf)), [instrument.face.items]);
  const options = list.map(({ id, label, group, addresses }) => ({
    id,
    label: addresses.length === 1 && used.has(addresses[0] ?? "") ? `${label} ·` : label,
    group,
  }));
  const binds = bindsOf(item);
  const waits = useListening((l) => l.item === item.id);
  const bind = (name: string, next: readonly string[]) => {
    const { bind: first, also } = boundTo(item, next);
    session.commit(changeFaceItem(item.id, name, { bind: first, also }));
  };
  const addressesOf = (id: string) => list.find((b) => b.id === id)?.addresses ?? [];
  const bank = list.find(
    (b) => b.addresses.length > 1 && b.addresses.length === binds.length && b.addresses[0] === binds[0],
  );
  const rest = binds.slice(1);
  return (
    <Section title={most > 2 ? `Moves ${plural(binds.length, "thing")}` : "Moves"}>
      <Row
        label={item.kind === "xy" ? "Across" : most > 2 ? "First" : "Moves"}
        help="The macro or parameter that it moves; what another item moves already has a dot"
      >
        <Choice
          label="Bound to"
          placeholder="not bound"
          value={bank?.id ?? binds[0] ?? ""}
          options={options}
          onChange={(id) =>
            bind("Bind", [...addressesOf(id), ...(addressesOf(id).length > 1 ? [] : rest)].slice(0, most))
          }
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
            onChange={(id) => bind("Bind", [binds[0] ?? id, ...addressesOf(id)].slice(0, 2))}
            className="flex-1"
          />
        </Row>
      )}
      {most > 2 && (
        <>
          <Row label="One more">
            <Choice
              label="Bound to one more"
              placeholder="choose"
              value=""
              options={options}
              onChange={(id) => bind("Bind one more", [...binds, ...addressesOf(id)].slice(0, most))}
              className="flex-1"
            />
          </Row>
          {rest.length > 0 && !bank && (
            <ul className="mb-1 max-h-28 overflow-auto text-s">
              {binds.map((address) => (
                <li key={address} className="flex items-center justify-between gap-2">
                  <span className="truncate">{findParam(instrument, address)?.label ?? address}</span>
                  <Button
                    aria-label={`Move ${findParam(instrument, address)?.label ?? "it"} no longer`}
                    onClick={() =>
                      bind(
                        "Bind one less",
                        binds.filter((b) => b !== address),
                      )
                    }
                  >
                    −
                  </Button>
                </li>
              ))}
            </ul>
          )}
        </>
      )}
      <Range instrument={instrument} item={item} />
      <div className="mb-1 flex gap-2">
        <Button
          pressed={waits}
          hint="It will move whatever you move next, at any station"
          onClick={() => (waits ? listenNoMore() : listenFor(item.id))}
        >
          Listen
        </Button>
        {binds.length > 0 && <Button onClick={() => bind("Unbind", [])}>Unbind</Button>}
      </div>
      {binds.length === 0 && (
        <p className="text-ochre text-s">
          This {faceKind(item.kind).label.toLowerCase()} does nothing until it is bound.
        </p>
      )}
    </Section>
  );
}

/** The part of the travel that it goes over, in the values of what it moves first. */
function Range({ instrument, item }: { instrument: Instrument; item: FaceItem }) {
  const [address] = bindsOf(item);
  const spec = address === undefined ? null : findParam(instrument, address)?.spec;
  if (spec?.type !== "number" || spec.unit === "switch") return null;
  const end = (id: "from" | "to", label: string) => (
    <Well
      label={label}
      text={formatValue(spec, valueAt(spec, item[id]))}
      width={86}
      align="right"
      onType={(text) => {
        const value = parseValue(spec, text);
        if (value !== null)
          session.commit(changeFaceItem(item.id, "Set range", { [id]: travelOf(spec, Number(value)) }));
        return value !== null;
      }}
      onStep={(steps) =>
        session.commit(
          changeFaceItem(item.id, "Set range", { [id]: Math.min(1, Math.max(0, item[id] + steps * 0.01)) }),
          "step",
        )
      }
    />
  );
  return (
    <>
      <Row label="From" help="The end at which it begins; from above downward it goes the other way round">
        {end("from", "Goes from")}
      </Row>
      <Row label="To">{end("to", "Goes to")}</Row>
    </>
  );
}

/** Where the chosen items stand, and on which page. */
function Places({ instrument, item }: { instrument: Instrument; item: FaceItem }) {
  const number = (id: "x" | "y" | "width" | "height", label: string) => {
    const set = (value: number, gesture: string | null) =>
      session.commit(
        changeFaceItems(new Set(chosenIds()), `Set ${label.toLowerCase()}`, () => ({ [id]: value })),
        gesture,
      );
    return (
      <Row label={label}>
        <Well
          label={label}
          text={`${Math.round(item[id])} px`}
          width={72}
          align="right"
          onType={(text) => {
            const value = parseNumber("count", text.replace(/\s*px$/i, ""));
            if (value !== null) set(value, null);
            return value !== null;
          }}
          onStep={(steps) => set(item[id] + steps, "step")}
        />
      </Row>
    );
  };
  const all = (name: string, fields: Partial<FaceItem>) =>
    session.commit(changeFaceItems(new Set(chosenIds()), name, () => fields));
  return (
    <Section title="Place">
      {number("x", "Left")}
      {number("y", "Top")}
      {number("width", "Width")}
      {number("height", "Height")}
      <Row label="Page">
        <Choice
          label="Page of the item"
          value={item.page ?? "*"}
          options={[
            ...instrument.face.pages.map(({ id, name }) => ({ id, label: name })),
            { id: "*", label: "Every page" },
          ]}
          onChange={(id) => all("Set page", { page: id === "*" ? null : id })}
          className="flex-1"
        />
      </Row>
      <Row label="Locked">
        <Toggle
          label="Locked"
          hidden
          on={item.locked}
          onChange={(locked) => all(locked ? "Lock" : "Unlock", { locked })}
        />
      </Row>
      <Row label="Hidden">
        <Toggle
          label="Hidden"
          hidden
          on={item.hidden}
          onChange={(hidden) => all(hidden ? "Hide" : "Show", { hidden })}
        />
      </Row>
    </Section>
  );
}

/** When it is there, or can be operated: while something stands above or below a place. */
function Condition({ instrument, item }: { instrument: Instrument; item: FaceItem }) {
  const list = useMemo(() => bindables(instrument, "any", false), [instrument]);
  const { when } = item;
  const set = (next: FaceItem["when"]) => session.commit(changeFaceItem(item.id, "Set condition", { when: next }));
  return (
    <Section title="When">
      <Row label="Goes by" help="What decides whether it is there; nothing: it always is">
        <Choice
          label="Condition goes by"
          value={when?.address ?? ""}
          placeholder="always there"
          options={[{ id: "", label: "Always there" }, ...list.map(({ id, label, group }) => ({ id, label, group }))]}
          onChange={(address) =>
            set(
              address === ""
                ? null
                : { address, is: when?.is ?? "above", share: when?.share ?? 0.5, does: when?.does ?? "enables" },
            )
          }
          className="flex-1"
        />
      </Row>
      {when && (
        <>
          <Row label="While it is">
            <Choice
              label="Condition is"
              value={when.is}
              options={[
                { id: "above", label: "At least" },
                { id: "below", label: "Below" },
              ]}
              onChange={(is) => set({ ...when, is: is as "above" | "below" })}
              className="flex-1"
            />
            <Well
              label="Place on its travel"
              text={`${Math.round(when.share * 100)} %`}
              width={60}
              align="right"
              onType={(text) => {
                const share = parseNumber("percent", text);
                if (share !== null) set({ ...when, share: Math.min(1, Math.max(0, share)) });
                return share !== null;
              }}
            />
          </Row>
          <Row label="It is">
            <Choice
              label="Condition does"
              value={when.does}
              options={[
                { id: "enables", label: "Usable, else pale" },
                { id: "shows", label: "Shown, else gone" },
              ]}
              onChange={(does) => set({ ...when, does: does as "enables" | "shows" })}
              className="flex-1"
            />
          </Row>
        </>
      )}
    </Section>
  );
}
