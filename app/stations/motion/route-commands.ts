import { addRoute, changeRoute, type Route, removeRoute, together } from "../../../core/instrument";
import { copied, copy } from "../../state/clipboard";
import type { Command } from "../../state/commands";
import { freshId } from "../../state/ids";
import { session } from "../../state/session";

/** Adds a route to the first filter's cutoff, or where there is none to the first layer's level. */
export function newRouteForFirst(): void {
  const layer = session.instrument?.layers[0];
  if (!layer) return;
  const filter = layer.stages.find((s) => s.kind === "filter");
  const target = filter ? `layers/${layer.id}/stages/${filter.id}/cutoff` : `layers/${layer.id}/strip/level`;
  session.commit(addRoute({ id: freshId(), source: "velocity", target, amount: 1 }));
}

function add(what: string, routes: readonly Route[]): void {
  const taken = new Set(session.instrument?.routes.map((r) => r.id));
  const edits = routes.map((route) => {
    const id = freshId(taken);
    taken.add(id);
    return addRoute({ ...route, id });
  });
  session.commit(together(what, edits));
}

/** Puts copied routes into the instrument. Those whose source or target isn't there say so where they stand. */
export const PASTE_ROUTES: Command = {
  id: "paste-routes",
  label: "Paste routes",
  why: () => (copied("routes") ? null : "no routes were copied"),
  run: () => add("Paste routes", copied("routes")?.routes ?? []),
};

/** What can be done with a route. */
export const routeCommands = (route: Route): readonly Command[] => [
  {
    id: "on",
    label: route.on ? "Switch off" : "Switch on",
    run: () => session.commit(changeRoute(route.id, { on: !route.on })),
  },
  {
    id: "turn",
    label: "Invert",
    why: () => (route.amount === 0 ? "its depth is zero" : null),
    run: () => session.commit(changeRoute(route.id, { amount: -route.amount })),
  },
  { id: "copy", label: "Copy", run: () => copy({ kind: "routes", routes: [route] }) },
  PASTE_ROUTES,
  { id: "duplicate", label: "Duplicate", run: () => add("Duplicate the route", [route]) },
  { id: "remove", label: "Remove", run: () => session.commit(removeRoute(route.id)) },
];
