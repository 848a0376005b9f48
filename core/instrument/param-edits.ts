import { clampValue, formatValue, type ParamValue } from "../params";
import { changeUnit, findParam } from "./address";
import type { Edit } from "./edit";
import type { Instrument, Route, Unit } from "./instrument";

/** Sets one parameter; numbers are kept in range. Misuse (no such address, no such choice) throws RangeError. */
export function setParam(instrument: Instrument, address: string, value: ParamValue): Edit {
  const found = findParam(instrument, address);
  if (!found) throw new RangeError(`there is no parameter at ${address}`);
  const { spec } = found;
  if (spec.type === "choice" && !spec.choices.some((c) => c.id === value)) {
    throw new RangeError(`${address} can't be ${value}`);
  }
  const next = spec.type === "number" ? clampValue(spec, Number(value)) : value;
  const unitAddress = address.slice(0, address.lastIndexOf("/"));
  return {
    name: `Set ${found.label} to ${formatValue(spec, next)}`,
    merge: address,
    apply: (doc) => changeUnit(doc, unitAddress, (unit) => ({ ...unit, params: { ...unit.params, [spec.id]: next } })),
  };
}

/** Gives the unit at an address another name. */
export const renameUnit = (address: string, name: string): Edit => ({
  name: `Rename to ${name}`,
  merge: `name:${address}`,
  apply: (doc) => changeUnit(doc, address, (unit) => ({ ...unit, name })),
});

export const addMacro = (unit: Unit): Edit => ({
  name: `Add ${unit.name}`,
  apply: (doc) => ({ ...doc, macros: [...doc.macros, unit] }),
});

/** Removes a macro, its routes, and the binding of whatever on the face was bound to it. */
export const removeMacro = (id: string): Edit => ({
  name: "Remove macro",
  apply: (doc) => ({
    ...doc,
    macros: doc.macros.filter((m) => m.id !== id),
    routes: doc.routes.filter((r) => r.source !== `macros/${id}`),
    face: {
      ...doc.face,
      items: doc.face.items.map((item) => (item.bind === `macros/${id}/value` ? { ...item, bind: null } : item)),
    },
  }),
});

export const addRoute = (route: Route): Edit => ({
  name: "Add route",
  apply: (doc) => ({ ...doc, routes: [...doc.routes, route] }),
});

export const changeRoute = (id: string, change: Partial<Omit<Route, "id">>): Edit => ({
  name: "amount" in change ? "Set route amount" : "Change route",
  merge: `route:${id}:${Object.keys(change).join()}`,
  apply: (doc) => ({ ...doc, routes: doc.routes.map((r) => (r.id === id ? { ...r, ...change } : r)) }),
});

export const removeRoute = (id: string): Edit => ({
  name: "Remove route",
  apply: (doc) => ({ ...doc, routes: doc.routes.filter((r) => r.id !== id) }),
});
