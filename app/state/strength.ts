import { useView } from "./view";

/** The velocity at which something sounds that was played at another: the fixed one, where one is set. */
export const strengthOf = (played: number): number => useView.getState().strength ?? played;
