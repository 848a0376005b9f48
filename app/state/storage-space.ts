import { settings } from "../storage/stores";
import { tell } from "./notices";

/** What the browser says of its storage; bytes, null where it says nothing. */
export interface Space {
  readonly used: number;
  readonly left: number;
  /** Whether the browser has promised not to clear it by itself. */
  readonly kept: boolean;
}

/** Below so many bytes a long recording may not fit. */
const LITTLE = 500e6;
const ASKED = "persistence-asked";

export async function measureSpace(): Promise<Space | null> {
  const storage = globalThis.navigator?.storage;
  if (!storage?.estimate) return null;
  const { usage = 0, quota = 0 } = await storage.estimate();
  return { used: usage, left: Math.max(0, quota - usage), kept: (await storage.persisted?.()) ?? false };
}

/** Asks the browser once to keep what is stored. */
export async function askToKeep(): Promise<boolean> {
  await settings.setItem(ASKED, true);
  return (await globalThis.navigator?.storage?.persist?.()) ?? false;
}

/** Tells when there is little room left, and asks the browser to keep what is there, the first time that something was stored. */
export async function warnOfSpace(): Promise<void> {
  if ((await settings.getItem<boolean>(ASKED)) !== true) await askToKeep();
  const space = await measureSpace();
  if (space && space.left < LITTLE)
    tell(
      "warning",
      `Only ${bytesText(space.left)} are left in this browser's storage: remove takes that are not needed (the library then frees their room), or record on another disk.`,
    );
}

/** A size as people read it. */
export const bytesText = (bytes: number): string =>
  bytes < 1e6
    ? `${Math.round(bytes / 1e3)} kB`
    : bytes < 1e9
      ? `${Math.round(bytes / 1e6)} MB`
      : `${(bytes / 1e9).toFixed(1)} GB`;
