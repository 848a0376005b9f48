import { create } from "zustand";
import type { Instrument } from "../../core/instrument";
import { listVersions, removeVersion, restoreVersion, type Version } from "../storage/library";
import { documentWorker } from "../workers/document-worker";
import { hearAs } from "./engine";
import { LevelMatch } from "./level-match";
import { type SessionState, session } from "./session";
import { clearSelection } from "./view";

type Looked = NonNullable<SessionState["looking"]>;

interface VersionsView {
  readonly versions: readonly Version[];
  /** The version that was looked at last, while it is compared with the present state. */
  readonly last: Looked | null;
  readonly read: (id: string) => Promise<void>;
  /** Removes a version of the open instrument, or takes it back; false where another tab writes it. */
  readonly remove: (version: string) => Promise<boolean>;
  readonly restore: (version: string) => Promise<boolean>;
}

/** Changes the list of the open instrument's versions. */
async function changeVersions(change: (id: string) => Promise<readonly Version[]>): Promise<boolean> {
  const versions = await session.alone(change);
  if (versions) useVersions.setState({ versions });
  return versions !== null;
}

/** The versions of the open instrument. */
export const useVersions = create<VersionsView>((set) => ({
  versions: [],
  last: null,
  read: async (id) => set({ versions: await listVersions(id) }),
  remove: (version) => changeVersions((id) => removeVersion(id, version)),
  restore: (version) => changeVersions((id) => restoreVersion(id, version)),
}));

/** Makes a version as loud as the present state, so that the ear compares the rest. */
export const versionMatch = new LevelMatch(() => session.store.getState().looking !== null);
hearAs((instrument) => (session.store.getState().looking ? versionMatch.trimmed(instrument) : instrument));

/** Shows a version in place of the present state, and lets it be heard. */
export async function lookAt(id: string, version: Version): Promise<void> {
  const instrument: Instrument = await documentWorker().loadVersion(id, version);
  if (session.instrument?.id !== id) return;
  const last = { name: version.name, instrument };
  useVersions.setState({ last });
  versionMatch.begin();
  clearSelection();
  session.look(last);
}

/** Changes between the version that was looked at and the present state. */
export function compareVersion(): void {
  const { last } = useVersions.getState();
  if (last && session.instrument?.id !== last.instrument.id) forget();
  else if (last) {
    versionMatch.turn();
    session.look(session.store.getState().looking ? null : last);
  }
}

function forget(): void {
  useVersions.setState({ last: null });
  versionMatch.end();
}

export function leaveVersion(): void {
  forget();
  session.look(null);
}

/** Makes a version the present state, as an edit that can be undone. */
export function goBackTo({ name, instrument }: Looked): void {
  leaveVersion();
  session.commit({ name: `Go back to “${name}”`, apply: () => instrument });
}
