import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import {
  addGroup,
  addLayer,
  addUnit,
  changeLayer,
  type Group,
  type Layer,
  newGroup,
  newLayer,
  newUnit,
  removeGroup,
  removeLayer,
  removeUnit,
  renameGroup,
  renameUnit,
} from "../../../core/instrument";
import { plural } from "../../../core/params";
import { UNITS } from "../../../core/units";
import { freshId } from "../../state/ids";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Fold, ParamControl, Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { GroupSwitches } from "./GroupSwitches";

/** The settings that the zones of a group share. */
export const GroupSettings = (given: { layer: Layer; group: Group }) => (
  <SettingsOfGroup key={`${given.layer.id}/${given.group.id}`} {...given} />
);

function SettingsOfGroup({ layer, group }: { layer: Layer; group: Group }) {
  const control = ({ id }: { id: string }) => (
    <ParamControl key={id} address={`layers/${layer.id}/groups/${group.id}/${id}`} />
  );
  const { params } = UNITS.group;
  const isSet = ({ id, default: usual }: (typeof params)[number]) => group.settings.params[id] !== usual;
  // What is seldom used is folded away, unless it is used; what is turned meanwhile stays where it is.
  const [shown] = useState(() => params.filter((p) => USUAL.has(p.id) || isSet(p)));
  const seldom = params.filter((p) => !shown.includes(p));
  return (
    <>
      {shown.map(control)}
      {seldom.length > 0 && (
        <Fold title={<span className="text-ink-soft">Keyswitch, controller, chance, sends …</span>}>
          {seldom.map(control)}
        </Fold>
      )}
    </>
  );
}

/** Settings of a group that are always in sight. */
const USUAL: ReadonlySet<string> = new Set(["level", "pan", "tune", "repeats", "trigger", "choke"]);

const rename = (label: string, text: string, set: (name: string) => void) => (
  <Well
    label={label}
    text={text}
    width={112}
    onType={(name) => {
      set(name.trim() || text);
      return true;
    }}
  />
);

/** Layers, their groups and sets, and the microphones: what there is when no zone is selected. */
export function Structure() {
  const layers = useInstrument((i) => i.layers);
  const sets = useInstrument((i) => i.sets);
  const mics = useInstrument((i) => i.mics);
  return (
    <>
      <h2 className="mb-2 font-display font-semibold text-l">Layers and groups</h2>
      <p className="mb-2 text-ink-soft text-s">
        Click a zone to hear it and see what it answers to; drag it or its edges. Drag over the ground, or click the
        name of a key or velocity, to select several; Shift adds. The wheel scrolls, with Ctrl or Alt it zooms.
      </p>
      {layers.map((layer) => (
        <LayerPart key={layer.id} layer={layer} last={layers.length === 1} />
      ))}
      <Button
        className="mb-3"
        onClick={() => session.commit(addLayer(newLayer(freshId(), `Layer ${layers.length + 1}`)))}
      >
        <Plus size={13} aria-hidden /> Add layer
      </Button>
      <Section
        title="Layer sets: one layer of each sounds"
        aside={
          <Button
            aria-label="Add layer set"
            onClick={() => session.commit(addUnit("sets", newUnit("set", freshId(), `Set ${sets.length + 1}`)))}
          >
            <Plus size={13} aria-hidden />
          </Button>
        }
      >
        {sets.map((unit) => (
          <div key={unit.id}>
            <Row label="Set">
              {rename("Name of the set", unit.name, (name) => session.commit(renameUnit(`sets/${unit.id}`, name)))}
              <Remove what="set" onClick={() => session.commit(removeUnit("sets", unit.id))} />
            </Row>
            <ParamControl address={`sets/${unit.id}/chosen`} />
          </div>
        ))}
      </Section>
      <Section
        title="Microphones"
        aside={
          <Button
            aria-label="Add microphone"
            onClick={() => session.commit(addUnit("mics", newUnit("mic", freshId(), `Mic ${mics.length + 1}`)))}
          >
            <Plus size={13} aria-hidden />
          </Button>
        }
      >
        {mics.map((unit) => (
          <div key={unit.id}>
            <Row label="Name">
              {rename("Name of the microphone", unit.name, (name) =>
                session.commit(renameUnit(`mics/${unit.id}`, name)),
              )}
              <Remove what="microphone" onClick={() => session.commit(removeUnit("mics", unit.id))} />
            </Row>
            <ParamControl address={`mics/${unit.id}/level`} />
            <ParamControl address={`mics/${unit.id}/pan`} />
          </div>
        ))}
      </Section>
    </>
  );
}

const Remove = ({ what, onClick, disabled }: { what: string; onClick: () => void; disabled?: boolean }) => (
  <Button look="quiet" aria-label={`Remove ${what}`} className="px-1" onClick={onClick} disabled={disabled}>
    <Trash2 size={13} aria-hidden />
  </Button>
);

function LayerPart({ layer, last }: { layer: Layer; last: boolean }) {
  const sets = useInstrument((i) => i.sets);
  return (
    <Section
      title={`${layer.name} · ${plural(
        layer.groups.reduce((n, g) => n + g.zones.length, 0),
        "zone",
      )}`}
      aside={
        <Button
          aria-label={`Add group to ${layer.name}`}
          onClick={() => session.commit(addGroup(layer.id, newGroup(freshId(), `Group ${layer.groups.length + 1}`)))}
        >
          <Plus size={13} aria-hidden /> group
        </Button>
      }
    >
      <Row label="Layer">
        {rename("Name of the layer", layer.name, (name) => session.commit(changeLayer(layer.id, { name })))}
        <Remove what="layer" disabled={last} onClick={() => session.commit(removeLayer(layer.id))} />
      </Row>
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
      {layer.groups.map((group) => (
        <Fold
          key={group.id}
          className="border-rule border-t"
          title={
            <>
              {group.name} <span className="num text-ink-faint text-s">{plural(group.zones.length, "zone")}</span>
            </>
          }
          aside={<GroupSwitches layer={layer.id} group={group} />}
        >
          <Row label="Group">
            {rename("Name of the group", group.name, (name) => session.commit(renameGroup(layer.id, group.id, name)))}
            <Remove
              what="group"
              disabled={group.zones.length > 0 || layer.groups.length === 1}
              onClick={() => session.commit(removeGroup(layer.id, group.id))}
            />
          </Row>
          <GroupSettings layer={layer} group={group} />
        </Fold>
      ))}
    </Section>
  );
}
