import {
  addRoute,
  addUnit,
  findParam,
  type Instrument,
  newUnit,
  type Route,
  removeRoute,
  setParam,
  together,
} from "../../core/instrument";
import { freshId } from "./ids";
import { tell } from "./notices";
import { session } from "./session";

/** By what the start of a layer's samples is moved: how hard a key is struck, chance, or a dial. */
export type StartMover = "velocity" | "random" | "macro";

/** Seconds that are left out at the most. */
export const SOFTEST = 0.06;

export const startAddress = (layer: string): string => `layers/${layer}/source/start`;

/** The route that moves a layer's start in a way; undefined where there is none. */
export const startRoute = ({ routes }: Pick<Instrument, "routes">, layer: string, by: StartMover): Route | undefined =>
  routes.find(
    (r) => r.target === startAddress(layer) && (by === "macro" ? r.source.startsWith("macros/") : r.source === by),
  );

/** Lets a layer's notes begin later in their samples, which takes the pluck from them: for soft notes, at random, or by a new dial; again takes it away. */
export function moveStart(layer: string, by: StartMover): void {
  const { instrument } = session;
  if (!instrument) return;
  const address = startAddress(layer);
  const known = startRoute(instrument, layer, by);
  const start = Number(findParam(instrument, address)?.value ?? 0);
  if (known) {
    const back = { velocity: start + known.amount, random: start - known.amount, macro: start }[by];
    session.commit(
      together("Leave the start as it is", [removeRoute(known.id), setParam(instrument, address, Math.max(0, back))]),
    );
    return;
  }
  const id = freshId(new Set(instrument.routes.map((r) => r.id)));
  if (by === "velocity") {
    // Soft notes leave all of it out, the hardest none.
    session.commit(
      together("Softer notes begin later", [
        setParam(instrument, address, start + SOFTEST),
        addRoute({ id, source: "velocity", target: address, amount: -SOFTEST }),
      ]),
    );
  } else if (by === "random") {
    session.commit(
      together("Notes begin at random", [
        setParam(instrument, address, start + SOFTEST / 2),
        addRoute({ id, source: "random", target: address, amount: SOFTEST / 2 }),
      ]),
    );
  } else {
    const macro = newUnit("macro", freshId(new Set(instrument.macros.map((m) => m.id))), "Softer start");
    session.commit(
      together("A dial for the start", [
        addUnit("macros", macro),
        addRoute({ id, source: `macros/${macro.id}`, target: address, amount: SOFTEST }),
      ]),
    );
    tell(
      "good",
      "The macro “Softer start” leaves up to 60 ms of each note’s beginning out; it can be put on the face.",
    );
  }
}
