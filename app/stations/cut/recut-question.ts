import { create } from "zustand";
import type { Take } from "../../../core/instrument";
import type { Errand } from "../../state/errand";
import type { Recut } from "./recut";

/** A new cut of which it is asked what it does to what is in use; it waits until it is answered, wherever one is meanwhile. */
interface RecutQuestion {
  readonly errand: Errand;
  readonly take: Take;
  readonly recut: Recut;
}

export const useRecutQuestion = create<{ readonly question: RecutQuestion | null }>(() => ({ question: null }));
export const askRecut = (question: RecutQuestion | null): void => useRecutQuestion.setState({ question });
