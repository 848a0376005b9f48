import { Plus } from "lucide-react";
import { plural } from "../../../core/params";
import { Station } from "../../shell/Station";
import { type Command, useCommands } from "../../state/commands";
import { useInstrument } from "../../state/use-session";
import { WithPinned } from "../../units/WithPinned";
import { Button } from "../../widgets/Button";
import { Split } from "../../widgets/Split";
import { Macros, newMacro } from "./Macros";
import { Envelopes, Lfos } from "./Movers";
import { RouteList } from "./RouteList";
import { newRouteForFirst, PASTE_ROUTES } from "./route-commands";

const MOTION_COMMANDS: readonly Command[] = [
  { id: "route", label: "Add a route", run: newRouteForFirst },
  PASTE_ROUTES,
  { id: "macro", label: "Add a macro", run: newMacro },
];

/** Motion: envelope, LFO, routes and macros. */
export function MotionStation() {
  const layer = useInstrument((i) => i.layers[0]);
  const routes = useInstrument((i) => i.routes.length);
  const macros = useInstrument((i) => i.macros.length);
  useCommands("Motion", MOTION_COMMANDS);
  return (
    <Station
      title="Motion"
      facts={`${plural(routes, "route")} · ${plural(macros, "macro")}`}
      actions={
        <Button look="primary" onClick={newRouteForFirst} hint="Adds a route from a source to a parameter">
          <Plus size={14} aria-hidden /> Add route
        </Button>
      }
      inspector={<Macros />}
    >
      <WithPinned id="motion">
        <Split
          id="motion"
          label="Height of the routes"
          as="rows"
          size="52%"
          least={[130, 110]}
          first={
            <div className="grid min-h-0 flex-1 grid-cols-2 gap-px bg-rule">
              {layer && <Envelopes layer={layer} />}
              <Lfos />
            </div>
          }
          second={<RouteList />}
        />
      </WithPinned>
    </Station>
  );
}
