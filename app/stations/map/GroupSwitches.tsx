import { EyeOff, Headphones, Lock, type LucideIcon, VolumeX } from "lucide-react";
import { memo } from "react";
import type { Group } from "../../../core/instrument";
import { type GroupSwitch, groupKey, turnGroup } from "../../state/group-view";
import { setView, useView } from "../../state/view";
import { cx } from "../../widgets/class-names";

interface SwitchLook {
  readonly id: GroupSwitch;
  readonly icon: LucideIcon;
  readonly label: string;
  readonly hint: string;
}

const SWITCHES: readonly SwitchLook[] = [
  {
    id: "alone",
    icon: Headphones,
    label: "Hear alone",
    hint: "Hears this group alone, or with others that are switched so",
  },
  { id: "muted", icon: VolumeX, label: "Mute", hint: "Doesn't hear this group while you work" },
  { id: "paled", icon: EyeOff, label: "Pale", hint: "Shows its zones pale on the field, out of reach" },
  { id: "locked", icon: Lock, label: "Lock", hint: "Keeps its zones from being moved on the field" },
];

/** What can be switched for a group while one works: none of it is part of the instrument. */
export const GroupSwitches = memo(function GroupSwitches({ layer, group }: { layer: string; group: Group }) {
  return (
    <span className="flex shrink-0">
      {SWITCHES.map((which) => (
        <Switch key={which.id} which={which} at={groupKey(layer, group.id)} group={group} />
      ))}
    </span>
  );
});

/** What is out of reach isn't selected either. */
function leave(group: Group): void {
  const own = new Set(group.zones.map((z) => z.id));
  setView({ zoneIds: new Set([...useView.getState().zoneIds].filter((id) => !own.has(id))) });
}

function Switch({
  which: { id, icon: Icon, label, hint },
  at,
  group,
}: {
  which: SwitchLook;
  at: string;
  group: Group;
}) {
  const on = useView((v) => v[id].has(at));
  return (
    <button
      type="button"
      aria-label={`${label}: ${group.name}`}
      aria-pressed={on}
      title={hint}
      onClick={() => {
        turnGroup(id, at);
        if (!on && (id === "paled" || id === "locked")) leave(group);
      }}
      className={cx(
        "grid h-6 w-6 place-items-center rounded-s",
        on ? "bg-ink text-sheet" : "text-ink-soft hover:bg-well",
      )}
    >
      <Icon size={12} aria-hidden />
    </button>
  );
}
