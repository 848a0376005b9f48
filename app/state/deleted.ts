import { tabs } from "../storage/instrument-locks";
import {
  deleteInstrument,
  expiredInstruments,
  KEPT_AFTER_REMOVAL,
  purgeInstrument,
  restoreInstrument,
} from "../storage/library";
import { forgetThrownAway } from "../storage/recordings";

/** Does something to a stored instrument that isn't open here, as the only one; false where another tab has it. */
async function withHeld(id: string, what: () => Promise<void>): Promise<boolean> {
  const held = await tabs.hold(id);
  if (!held) return false;
  try {
    await what();
  } finally {
    held.release();
  }
  tabs.say({ type: "library" });
  return true;
}

/** Deletes an instrument, for a month out of sight; false where another tab has it open. */
export const deleteStored = (id: string): Promise<boolean> => withHeld(id, () => deleteInstrument(id));

/** Takes a deleted instrument back. */
export const takeBack = (id: string): Promise<boolean> => withHeld(id, () => restoreInstrument(id));

/** Removes a deleted instrument for good. */
export const deleteForGood = (id: string): Promise<boolean> => withHeld(id, () => purgeInstrument(id));

/** Removes for good what was deleted, or thrown away, more than a month ago. */
export async function deleteOld(now = Date.now()): Promise<void> {
  for (const id of await expiredInstruments(now)) await deleteForGood(id);
  await forgetThrownAway(KEPT_AFTER_REMOVAL, now);
}
