import { addLayer, addRoute, addUnit, type Instrument, newInstrument, newLayer, newUnit, setSource, together } from ".";

/** Ids one after the other. */
export const counted = () => {
  let n = 0;
  return () => `f${++n}`;
};
/** An instrument of partials with two macros that move something, and a second layer. */
export const made = (): Instrument =>
  together("", [
    setSource("main", "partials"),
    addUnit("macros", newUnit("macro", "one", "Breath")),
    addUnit("macros", newUnit("macro", "two", "Mouth")),
    addLayer(newLayer("low", "Low")),
    ...["one", "two"].map((id) => addRoute({ id, source: `macros/${id}`, target: "layers/main/strip/pan", amount: 1 })),
  ]).apply(newInstrument("i", "Choir"));
