import { useEffect, useMemo } from "react";
import { changeLayer, findUnit, renameSend, settingOf } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { UNITS } from "../../../core/units";
import { Station } from "../../shell/Station";
import { useCommands } from "../../state/commands";
import { comparing } from "../../state/comparing";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { UnitPanel } from "../../units/UnitPanel";
import { chainCommands, layerCommands } from "../../units/unit-commands";
import { MenuButton } from "../../widgets/CommandMenu";
import { ParamControl, Row, Section } from "../../widgets/ParamControl";
import { Split } from "../../widgets/Split";
import { Well } from "../../widgets/Well";
import { InTheMix } from "./InTheMix";
import { SignalPath } from "./SignalPath";
import { TuningPart } from "./TuningPart";

/** Sound: what makes the tone, from the sources through the layers' units and the sends to the whole's chain. */
export function SoundStation() {
  const layers = useInstrument((i) => i.layers);
  const sends = useInstrument((i) => i.sends);
  const effects = useInstrument((i) => i.effects);
  const wanted = useView((v) => v.soundUnit);
  const there = useInstrument((i) => wanted !== null && findUnit(i, wanted) !== null);
  const [layer] = layers;
  const first = layer ? `layers/${layer.id}/${layer.stages[0] ? `stages/${layer.stages[0].id}` : "source"}` : null;
  const open = there ? wanted : first;
  // What was open may be gone: then the first unit is.
  useEffect(() => {
    if (open !== wanted) setView({ soundUnit: open });
  }, [open, wanted]);
  // Whoever leaves hears all of it again.
  useEffect(() => () => comparing.end(), []);
  const commands = useMemo(() => chainCommands(open), [open]);
  useCommands("Sound", commands);
  const units =
    layers.reduce((n, l) => n + l.stages.length + l.inserts.length + 3, 0) +
    sends.reduce((n, s) => n + s.units.length, 0) +
    effects.length;
  const used = sends.filter((s) => s.units.length > 0).length;
  return (
    <Station
      title="Sound"
      facts={`${plural(layers.length, "layer")} · ${plural(units, "unit")}${used > 0 ? ` · ${plural(used, "send")}` : ""}`}
      inspector={<Inspector open={open} />}
    >
      <Split
        id="sound"
        label="Height of the open unit"
        as="rows"
        size="58%"
        least={[96, 150]}
        first={<SignalPath />}
        second={open && <OpenUnits open={open} />}
      />
    </Station>
  );
}

/** The unit that is open, and beside it the one that was pinned. */
function OpenUnits({ open }: { open: string }) {
  const wanted = useView((v) => v.pinnedUnit);
  const pinned = useInstrument((i) => (wanted !== null && wanted !== open && findUnit(i, wanted) ? wanted : null));
  if (pinned === null) return <UnitPanel key={open} address={open} />;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-2">
      <div className="flex min-h-0 min-w-0 border-rule border-r">
        <UnitPanel key={pinned} address={pinned} narrow />
      </div>
      <div className="flex min-h-0 min-w-0">
        <UnitPanel key={open} address={open} narrow />
      </div>
    </div>
  );
}

/** Decibels at which nothing is sent. */
const SEND_OFF = -60;

/** Where the layer or the send of the open unit goes, and how the whole is played. */
function Inspector({ open }: { open: string | null }) {
  const layers = useInstrument((i) => i.layers);
  const sends = useInstrument((i) => i.sends);
  const layer = layers.find((l) => open?.startsWith(`layers/${l.id}/`));
  const send = sends.find((s) => open?.startsWith(`sends/${s.id}/`));
  return (
    <>
      {layer && (
        <>
          <div className="mb-2 flex items-center justify-between gap-2">
            <h2 className="truncate font-display font-semibold text-l">{layer.name}</h2>
            <MenuButton label="What can be done with the layer" commands={layerCommands(layer.id)} />
          </div>
          <Row label="Name">
            <Well
              label="Name of the layer"
              text={layer.name}
              width={140}
              onType={(name) => {
                session.commit(changeLayer(layer.id, { name: name.trim() || "Layer" }));
                return true;
              }}
            />
          </Row>
          <Section title="Where it goes">
            <ParamControl address={`layers/${layer.id}/strip/level`} />
            <ParamControl address={`layers/${layer.id}/strip/pan`} />
            {sends.map((s, i) => {
              const id = `send${i + 1}`;
              // A send without units gives nothing, unless something is sent there all the same.
              const shown = s.units.length > 0 || Number(settingOf(layer.sends, id)) > SEND_OFF;
              return (
                shown && <ParamControl key={s.id} address={`layers/${layer.id}/sends/${id}`} label={`To ${s.name}`} />
              );
            })}
          </Section>
        </>
      )}
      {send && (
        <>
          <h2 className="mb-2 font-display font-semibold text-l">{send.name}</h2>
          <Row label="Name">
            <Well
              label="Name of the send"
              text={send.name}
              width={140}
              onType={(name) => {
                session.commit(renameSend(send.id, name.trim() || "Send"));
                return true;
              }}
            />
          </Row>
          <p className="mb-3 text-ink-soft text-s">
            Each layer gives to it as much as its inspector says; its output joins the master.
          </p>
        </>
      )}
      {layers.length > 1 && <InTheMix />}
      <h2 className="mb-2 font-display font-semibold text-l">Playing</h2>
      <div className="pb-3">
        {UNITS.play.params.map((p) => (
          <ParamControl key={p.id} address={`play/${p.id}`} />
        ))}
      </div>
      <TuningPart />
    </>
  );
}
