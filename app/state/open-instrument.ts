import { reasonOf } from "../basis/reason-of";
import { isStored } from "../storage/library";
import { tell } from "./notices";
import { askRepair } from "./repair";
import { Broken, session, Unsaved } from "./session";
import { clearSelection } from "./view";

/** Runs what opens an instrument; where work would be lost that can't be saved, says so and leaves the choice. */
export async function opening(run: (abandon: boolean) => Promise<boolean>): Promise<boolean> {
  try {
    return await run(false);
  } catch (error) {
    if (!(error instanceof Unsaved)) throw error;
    tell("error", `${error.message}.`, { label: "Leave it unsaved", run: () => void run(true) });
    return false;
  }
}

// However another instrument was opened: what was selected, muted or locked in the one before means nothing in it.
session.store.subscribe((state, before) => {
  if (state.history?.present.id !== before.history?.present.id) clearSelection();
});

/** Opens a stored instrument; one that can only be opened with a loss is offered for repair. Resolves to whether it is open now. */
export async function openStored(id: string, opened: () => void = () => {}): Promise<boolean> {
  try {
    const open = await opening((abandon) => session.open(id, { abandon }));
    if (open) opened();
    else if (session.instrument?.id !== id && !(await isStored(id)))
      tell(
        "warning",
        "That instrument isn’t in this browser: what was open stays open. Its package can be opened here.",
      );
    return open;
  } catch (error) {
    if (!(error instanceof Broken)) {
      tell("error", `It was not opened: ${reasonOf(error)}.`);
      return false;
    }
    const { title, faults, text } = error.failed;
    askRepair({
      title,
      faults,
      text,
      open: async () => {
        if (await opening((abandon) => session.open(id, { repair: true, abandon }))) opened();
      },
    });
    return false;
  }
}
