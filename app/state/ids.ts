import { newId } from "../../core/instrument";

/** A fresh id; randomness is taken here, at the edge, so that the core stays without it. */
export const freshId = (taken?: ReadonlySet<string>): string => newId(Math.random, taken);
