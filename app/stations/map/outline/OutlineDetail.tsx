import { useNavigate } from "react-router";
import {
  changeGroup,
  changeLayer,
  type Edit,
  findUnit,
  type Group,
  type Layer,
  layersOfSet,
  MARKS,
  type Mark,
  renameGroup,
  renameUnit,
} from "../../../../core/instrument";
import { plural } from "../../../../core/params";
import { session } from "../../../state/session";
import { useInstrument } from "../../../state/use-session";
import { setView } from "../../../state/view";
import { Button } from "../../../widgets/Button";
import { Choice } from "../../../widgets/Choice";
import { MenuButton } from "../../../widgets/CommandMenu";
import { ParamControl, Row } from "../../../widgets/ParamControl";
import { Toggle } from "../../../widgets/Toggle";
import { Well } from "../../../widgets/Well";
import { GroupSettings } from "../GroupSettings";
import { dropUnit, rowCommands } from "./outline-commands";
import { outlineRows } from "./outline-rows";

/** What is open of the outline, with everything that can be set of it; nothing where nothing is. */
export function OutlineDetail({ address }: { address: string | null }) {
  const layers = useInstrument((i) => i.layers);
  if (address === null) return null;
  const row = outlineRows(layers).find((r) => r.address === address);
  if (!row) return <UnitDetail address={address} />;
  const layer = layers.find((l) => l.id === row.layer);
  const group = layer?.groups.find((g) => g.id === row.id);
  return (
    <div key={address}>
      <Head
        name={row.name}
        kind={row.kind}
        count={row.zones}
        menu={<MenuButton label={`What can be done with ${row.name}`} commands={rowCommands(row)} />}
      />
      {row.kind === "group" && layer && group && <GroupDetail layer={layer} group={group} />}
      {row.kind === "layer" && layer && <LayerDetail layer={layer} />}
    </div>
  );
}

const Head = ({ name, kind, count, menu }: { name: string; kind: string; count: number; menu: React.ReactNode }) => (
  <div className="mb-1 flex items-center justify-between gap-2">
    <h2 className="truncate font-display font-semibold text-l" title={name}>
      {name} <span className="font-normal text-ink-soft text-s">{`${kind}, ${plural(count, "zone")}`}</span>
    </h2>
    {menu}
  </div>
);

const nameRow = (what: string, text: string, rename: (name: string) => Edit) => (
  <Row label="Name">
    <Well
      label={`Name of the ${what}`}
      text={text}
      width={146}
      onType={(typed) => {
        const name = typed.trim().slice(0, 200);
        if (name !== "" && name !== text) session.commit(rename(name));
        return name !== "";
      }}
    />
  </Row>
);

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Mark and note: what is there for people only. */
function ForPeople({
  of,
  what,
  change,
}: {
  of: Layer | Group;
  what: string;
  change: (to: { mark?: Mark; note?: string }) => Edit;
}) {
  return (
    <>
      <Row label="Mark" help="A colour by which you know it again on the field; it means nothing else">
        <Choice
          label={`Mark of the ${what}`}
          value={of.mark}
          options={MARKS.map((id) => ({ id, label: capital(id) }))}
          onChange={(mark) => session.commit(change({ mark: mark as Mark }))}
          className="flex-1"
        />
      </Row>
      <textarea
        aria-label={`Note of the ${what}`}
        defaultValue={of.note}
        rows={of.note === "" ? 1 : 3}
        placeholder="a note about it"
        onKeyDown={(event) => event.stopPropagation()}
        onBlur={(event) => {
          const note = event.target.value.slice(0, 2000);
          if (note !== of.note) session.commit(change({ note }));
        }}
        className="my-1 block w-full resize-y rounded-[2px] bg-well px-1.5 py-1"
      />
    </>
  );
}

const GroupDetail = ({ layer, group }: { layer: Layer; group: Group }) => (
  <>
    {nameRow("group", group.name, (name) => renameGroup(layer.id, group.id, name))}
    <GroupSettings layer={layer} group={group} />
    <ForPeople key={group.note} of={group} what="group" change={(to) => changeGroup(layer.id, group.id, to)} />
  </>
);

function LayerDetail({ layer }: { layer: Layer }) {
  const sets = useInstrument((i) => i.sets);
  const navigate = useNavigate();
  const at = `layers/${layer.id}`;
  return (
    <>
      {nameRow("layer", layer.name, (name) => changeLayer(layer.id, { name }))}
      {["level", "pan", "velocity"].map((id) => (
        <ParamControl key={id} address={`${at}/strip/${id}`} />
      ))}
      {sets.length > 0 && (
        <Row label="Set" help="Of the layers in a set exactly one sounds">
          <Choice
            label={`Set of ${layer.name}`}
            value={layer.set ?? "none"}
            options={[{ id: "none", label: "always sounds" }, ...sets.map((u) => ({ id: u.id, label: u.name }))]}
            onChange={(id) => session.commit(changeLayer(layer.id, { set: id === "none" ? null : id }))}
            className="flex-1"
          />
        </Row>
      )}
      <ForPeople key={layer.note} of={layer} what="layer" change={(to) => changeLayer(layer.id, to)} />
      <Button
        onClick={() => {
          setView({ soundUnit: `${at}/source` });
          void navigate("/sound");
        }}
      >
        What its sound goes through
      </Button>
    </>
  );
}

const LISTS = { mics: "microphone", sets: "layer set" } as const;

/** A microphone, or a set with the layers that are in it. */
function UnitDetail({ address }: { address: string }) {
  const unit = useInstrument((i) => findUnit(i, address));
  const layers = useInstrument((i) => i.layers);
  const doc = useInstrument((i) => i);
  const list = address.startsWith("mics/") ? "mics" : "sets";
  if (!unit) return null;
  const zones =
    list === "mics"
      ? layers.reduce(
          (n, l) => n + l.groups.reduce((m, g) => m + g.zones.filter((z) => z.mic === unit.id).length, 0),
          0,
        )
      : layersOfSet(doc, unit.id).reduce((n, l) => n + l.groups.reduce((m, g) => m + g.zones.length, 0), 0);
  const remove = { id: "remove", label: `Remove the ${LISTS[list]}`, run: () => dropUnit(list, unit.id) };
  return (
    <div key={address}>
      <Head
        name={unit.name}
        kind={LISTS[list]}
        count={zones}
        menu={<MenuButton label={`What can be done with ${unit.name}`} commands={[remove]} />}
      />
      {nameRow(list === "mics" ? "microphone" : "set", unit.name, (name) => renameUnit(address, name))}
      {list === "mics" && <ParamControl address={`${address}/level`} />}
      {list === "mics" && <ParamControl address={`${address}/pan`} />}
      {list === "sets" &&
        layers.map((layer) => (
          <div key={layer.id}>
            <Toggle
              label={layer.set === unit.id || layer.set === null ? layer.name : `${layer.name} (in another set)`}
              on={layer.set === unit.id}
              onChange={(on) => session.commit(changeLayer(layer.id, { set: on ? unit.id : null }))}
            />
          </div>
        ))}
    </div>
  );
}
