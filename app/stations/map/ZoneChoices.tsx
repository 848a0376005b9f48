import { memo } from "react";
import { changeZones, moveZones, type Unit, type Zone } from "../../../core/instrument";
import { session } from "../../state/session";
import { useInstrumentParts } from "../../state/use-session";
import { useView } from "../../state/view";
import { Choice } from "../../widgets/Choice";
import { Row } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";

const set = (what: string, fields: Partial<Zone>) =>
  session.commit(changeZones(useView.getState().zoneIds, what, (z) => ({ ...z, ...fields })));

/** How the selected zones are played. */
export const Switches = memo(function Switches({ reverse, oneShot }: { reverse: boolean; oneShot: boolean }) {
  return (
    <>
      <Row label="Plays">
        <Toggle label="Reversed" on={reverse} onChange={(on) => set("Set direction", { reverse: on })} />
      </Row>
      <Row label="Note off" help="A one-shot plays on to its end after note off">
        <Toggle label="One-shot" on={oneShot} onChange={(on) => set("Set one-shot", { oneShot: on })} />
      </Row>
    </>
  );
});

/** The group that the zones belong to, and where else they could. */
export const GroupRow = memo(function GroupRow({ value }: { value: string }) {
  const groups = useInstrumentParts((i) =>
    i.layers.flatMap((l) => l.groups.map((g) => `${l.id}/${g.id}\n${l.name}: ${g.name}`)),
  );
  return (
    <Row label="Belongs to">
      <Choice
        label="Group"
        value={value}
        options={groups.map((text) => {
          const [id = "", label = ""] = text.split("\n");
          return { id, label };
        })}
        onChange={(id) => {
          const [layerId = "", groupId = ""] = id.split("/");
          session.commit(moveZones(useView.getState().zoneIds, layerId, groupId));
        }}
        className="flex-1"
      />
    </Row>
  );
});

/** The microphone that recorded the selected zones. */
export const MicRow = memo(function MicRow({ mics, mic }: { mics: readonly Unit[]; mic: string | null }) {
  return (
    <Row label="Mic" help="The microphone that recorded it">
      <Choice
        label="Microphone"
        value={mic ?? "none"}
        options={[{ id: "none", label: "none" }, ...mics.map((u) => ({ id: u.id, label: u.name }))]}
        onChange={(id) => set("Set microphone", { mic: id === "none" ? null : id })}
        className="flex-1"
      />
    </Row>
  );
});
