import { History as Clock, Trash2 } from "lucide-react";
import { Popover } from "radix-ui";
import { useRef, useState } from "react";
import { useStore } from "zustand";
import { formatNumber } from "../../core/params";
import { reasonOf } from "../basis/reason-of";
import { tell } from "../state/notices";
import { session } from "../state/session";
import { trimOf } from "../state/trim-of";
import { useInstrument } from "../state/use-session";
import { compareVersion, goBackTo, leaveVersion, lookAt, useVersions, versionMatch } from "../state/versions";
import type { Version } from "../storage/library";
import { Button } from "../widgets/Button";
import { cx } from "../widgets/class-names";
import { dateText } from "../widgets/date-text";

/** The versions of the open instrument: kept by themselves and by hand; looked at, compared by ear, gone back to. */
export function Versions() {
  const [open, setOpen] = useState(false);
  const chosen = useRef(false);
  const id = useInstrument((i) => i.id);
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        chosen.current = false;
        if (next) void useVersions.getState().read(id);
      }}
    >
      <Popover.Trigger asChild>
        <Button
          look="quiet"
          aria-label="Versions"
          hint="Versions: keep one, look at one, go back to one"
          className="-ml-2 px-1.5"
        >
          <Clock size={14} aria-hidden />
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label="Versions"
          // Whoever chose a version looks at it, and wants no hint over the bar that says so.
          onCloseAutoFocus={(event) => chosen.current && event.preventDefault()}
          className="z-40 flex max-h-[70vh] w-[380px] flex-col rounded-m border border-ink bg-sheet p-3"
        >
          <KeepForm id={id} />
          <VersionList
            id={id}
            close={() => {
              chosen.current = true;
              setOpen(false);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function KeepForm({ id }: { id: string }) {
  const [name, setName] = useState("");
  const reading = useStore(session.store, (s) => s.reading);
  const keep = async () => {
    await session.keep(name.trim() || "kept by hand", true);
    setName("");
    await useVersions.getState().read(id);
  };
  return (
    <form
      className="mb-2 flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        keep().catch((error: unknown) => tell("error", `No version was kept: ${reasonOf(error)}.`));
      }}
    >
      <input
        aria-label="Name of the version"
        placeholder="what this version is"
        value={name}
        maxLength={200}
        onChange={(event) => setName(event.target.value)}
        className="h-7 min-w-0 flex-1 rounded-[2px] bg-well px-2"
      />
      <Button type="submit" look="primary" disabled={reading}>
        Keep
      </Button>
    </form>
  );
}

/** Removes a version and says how to take it back. */
async function removeKept({ id, name }: Version): Promise<void> {
  const { remove, restore } = useVersions.getState();
  if (!(await remove(id))) {
    tell("warning", "Another tab has this instrument open: its versions are removed there.");
    return;
  }
  const back = () =>
    restore(id).then(
      (done) =>
        !done && tell("warning", `“${name}” wasn’t taken back: another instrument is open, or another tab has it.`),
      (error: unknown) => tell("error", `“${name}” wasn’t taken back: ${reasonOf(error)}.`),
    );
  tell("good", `The version “${name}” was removed.`, { label: "Undo", run: () => void back() });
}

function VersionList({ id, close }: { id: string; close: () => void }) {
  const { versions } = useVersions();
  const reading = useStore(session.store, (s) => s.reading);
  const look = (version: Version) => {
    close();
    lookAt(id, version).catch((error: unknown) => tell("error", `That version can't be read: ${reasonOf(error)}.`));
  };
  if (versions.length === 0)
    return (
      <p className="text-ink-soft">
        None yet. They are kept by themselves when an instrument is opened, and before files, placing or scripts change
        it.
      </p>
    );
  return (
    <ul aria-label="Kept versions" className="min-h-0 flex-1 overflow-y-auto">
      {versions.map((version) => (
        <li key={version.id} className="flex items-center gap-1.5 border-rule border-t">
          <button type="button" onClick={() => look(version)} className="min-w-0 flex-1 py-1.5 text-left hover:bg-well">
            <span className={cx("block truncate", version.byHand && "font-semibold")}>{version.name}</span>
            <span className="num block text-ink-soft text-s">{dateText(version.when)}</span>
          </button>
          <Button
            look="quiet"
            aria-label={`Remove the version ${version.name}`}
            hint={reading ? "Another tab has this instrument open" : "Remove it; for a month it can be taken back"}
            className="px-1.5"
            disabled={reading}
            onClick={() =>
              removeKept(version).catch((error: unknown) => tell("error", `It was not removed: ${reasonOf(error)}.`))
            }
          >
            <Trash2 size={13} aria-hidden />
          </Button>
        </li>
      ))}
    </ul>
  );
}

/** Says that a version is looked at, or that another tab writes the instrument, and how to go on. */
export function LookingBar() {
  const looking = useStore(session.store, (s) => s.looking);
  const reading = useStore(session.store, (s) => s.reading);
  const last = useVersions((v) => v.last);
  if (reading)
    return (
      <Bar text="Another tab has this instrument open; here it can be looked at and played.">
        <Button look="primary" onClick={() => void session.takeOver()}>
          Take it over
        </Button>
      </Bar>
    );
  if (looking)
    return (
      <Bar text={`You look at and hear the version “${looking.name}”. Nothing can be changed meanwhile.`}>
        <Trim />
        <Button keys="V" hint="Hear the present state instead, and back" onClick={compareVersion}>
          Hear the present
        </Button>
        <Button onClick={leaveVersion}>Leave it</Button>
        <Button look="primary" onClick={() => goBackTo(looking)}>
          Go back to it
        </Button>
      </Bar>
    );
  if (last)
    return (
      <Bar text={`You hear the present state; “${last.name}” is at hand for comparing.`}>
        <Trim />
        <Button keys="V" hint="Hear that version instead, and back" onClick={compareVersion}>
          Hear that version
        </Button>
        <Button onClick={leaveVersion}>Leave it</Button>
      </Bar>
    );
  return null;
}

/** By how much the version is made louder, so that both are as loud as each other. */
function Trim() {
  const { trim, sides } = useStore(versionMatch.store);
  return (
    <span className="num text-ink-soft text-s">
      {trimOf(sides) === null
        ? "play both to match their levels"
        : `trim ${trim >= 0 ? "+" : ""}${formatNumber("decibels", trim)}`}
    </span>
  );
}

const Bar = ({ text, children }: { text: string; children: React.ReactNode }) => (
  <div role="status" className="flex h-10 shrink-0 items-center gap-2 border-rule border-b bg-tint-ochre px-3.5">
    <span className="min-w-0 flex-1 truncate">{text}</span>
    {children}
  </div>
);
