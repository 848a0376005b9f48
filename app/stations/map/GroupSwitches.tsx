import { EyeOff, Headphones, Lock, type LucideIcon, VolumeX } from "lucide-react";
import { memo } from "react";
import { listZones } from "../../../core/instrument";
import { type GroupSwitch, turnGroups, zonesInView } from "../../state/group-view";
import { session } from "../../state/session";
import { setView, useView } from "../../state/view";
import { cx } from "../../widgets/class-names";

interface SwitchLook {
  readonly id: GroupSwitch;
  readonly icon: LucideIcon;
  readonly label: string;
  readonly hint: string;
}

const SWITCHES: readonly SwitchLook[] = [
  { id: "alone", icon: Headphones, label: "Solo", hint: "Solo: hears it alone, or with others that are soloed" },
  { id: "muted", icon: VolumeX, label: "Mute", hint: "Mute: silent while you work" },
  { id: "paled", icon: EyeOff, label: "Dim", hint: "Dims its zones on the field, out of reach" },
  { id: "locked", icon: Lock, label: "Lock", hint: "Keeps its zones from being moved on the field" },
];

/** What can be switched for groups or a microphone while one works: none of it is part of the instrument. */
export const GroupSwitches = memo(function GroupSwitches({ keys, name }: { keys: readonly string[]; name: string }) {
  return (
    <span className="flex shrink-0">
      {SWITCHES.map((which) => (
        <Switch key={which.id} which={which} keys={keys} name={name} />
      ))}
    </span>
  );
});

/** What is out of reach isn't selected either. */
function leaveUnreachable(): void {
  const { instrument } = session;
  const { zoneIds, paled, locked } = useView.getState();
  if (!instrument || zoneIds.size === 0) return;
  const free = new Set(zonesInView(instrument, paled, locked).free.map((z) => z.id));
  const kept = listZones(instrument).filter((z) => zoneIds.has(z.id) && free.has(z.id));
  if (kept.length < zoneIds.size) setView({ zoneIds: new Set(kept.map((z) => z.id)) });
}

function Switch({
  which: { id, icon: Icon, label, hint },
  keys,
  name,
}: {
  which: SwitchLook;
  keys: readonly string[];
  name: string;
}) {
  const on = useView((v) => keys.every((key) => v[id].has(key)));
  return (
    <button
      type="button"
      aria-label={`${label}: ${name}`}
      aria-pressed={on}
      title={hint}
      onClick={() => {
        turnGroups(id, keys);
        leaveUnreachable();
      }}
      className={cx(
        "grid size-6 place-items-center rounded-s",
        on ? "bg-ink text-sheet" : "text-ink-soft hover:bg-well",
      )}
    >
      <Icon size={12} aria-hidden />
    </button>
  );
}
