import { create } from "zustand";
import type { SfzLoss } from "../../core/formats";

/** What came of a file in an open format, read or written. */
export interface OpeningReport {
  readonly title: string;
  /** What it came to, as a sentence. */
  readonly text: string;
  readonly lost: readonly SfzLoss[];
  readonly problems: readonly string[];
  /** Samples that weren't there, by their paths. */
  readonly missing: readonly string[];
}

/** Several instruments of which one is to be opened. */
interface Choice {
  readonly names: readonly string[];
  /** The number of the one that was chosen; null: none. */
  readonly choose: (at: number | null) => void;
}

/** What is shown over the work; null for nothing. */
export const useOpeningReport = create<{ readonly report: OpeningReport | null; readonly choice: Choice | null }>(
  () => ({
    report: null,
    choice: null,
  }),
);
export const showReport = (report: OpeningReport | null): void => useOpeningReport.setState({ report });

/** Asks which of several; the number of the one that was chosen, null where none was. */
export function chooseOne(names: readonly string[]): Promise<number | null> {
  chooseNone();
  return new Promise((resolve) => {
    const choose = (at: number | null): void => {
      useOpeningReport.setState({ choice: null });
      resolve(at);
    };
    useOpeningReport.setState({ choice: { names, choose } });
  });
}

/** Whatever was asked is answered with none. */
export const chooseNone = (): void => useOpeningReport.getState().choice?.choose(null);
