import { create } from "zustand";
import type { Fault } from "../../core/instrument";

/** A document that can only be opened with a loss, and how to open it all the same. */
interface RepairRequest {
  readonly title: string;
  readonly faults: readonly Fault[];
  /** The document as it is stored, to be kept as a file; null where there is a file of it already. */
  readonly text: string | null;
  readonly open: () => Promise<void>;
}

/** What waits for an answer; null for nothing. */
export const useRepair = create<{ readonly request: RepairRequest | null }>(() => ({ request: null }));
export const askRepair = (request: RepairRequest | null): void => useRepair.setState({ request });
