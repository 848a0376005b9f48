import { tabs } from "../storage/instrument-locks";
import { deleteInstrument, purgeInstrument, purgeOld, restoreInstrument } from "../storage/library";

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

/** Removes for good what was deleted more than a month ago. */
export const deleteOld = (): Promise<void> => purgeOld();
