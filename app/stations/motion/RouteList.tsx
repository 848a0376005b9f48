import { memo, useMemo } from "react";
import { routeProblem } from "../../../core/engine";
import {
  byIdentity,
  changeRoute,
  type Instrument,
  listParams,
  type Route,
  type SourceSpec,
} from "../../../core/instrument";
import { amountRange, formatAmount, type NumberParam, parseAmount } from "../../../core/params";
import { session } from "../../state/session";
import { useInstrument, useInstrumentParts, useParam, useSources } from "../../state/use-session";
import { Choice } from "../../widgets/Choice";
import { MenuButton, WithMenu } from "../../widgets/CommandMenu";
import { Scale } from "../../widgets/Scale";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";
import { RouteDetails } from "./RouteDetails";
import { routeCommands } from "./route-commands";

const TRACKS = "grid grid-cols-[52px_150px_20px_190px_1fr_86px_30px] items-center gap-x-2";

/** All routes: what moves what, and by how much. */
export function RouteList() {
  const routes = useInstrument((i) => i.routes);
  const targets = useTargets();
  const sources = useSources();
  return (
    <section aria-label="Routes" className="min-h-0 flex-1 overflow-y-auto px-3.5 py-2">
      <div className={`${TRACKS} pb-1 text-ink-soft text-s`}>
        <span>on</span>
        <span>source</span>
        <span />
        <span>target</span>
        <span>depth</span>
        <span />
        <span />
      </div>
      {routes.length === 0 && (
        <p className="py-3 text-ink-soft">
          Nothing moves yet. A route lets a source, such as velocity, the mod wheel or a macro, move a parameter.
        </p>
      )}
      {routes.map((route) => (
        <RouteRow key={route.id} route={route} targets={targets} sources={sources} />
      ))}
    </section>
  );
}

/** What routes can move, as a list of names that stays as it is while only values change. */
function useTargets(): readonly Target[] {
  const found = useInstrumentParts((i) => targetsOf(i).map((p) => `${p.address}\n${p.label}`));
  return useMemo(
    () =>
      found.map((text) => {
        const [id = "", label = ""] = text.split("\n");
        return { id, label };
      }),
    [found],
  );
}

interface Target {
  readonly id: string;
  readonly label: string;
}

const targetsOf = byIdentity((instrument: Instrument) =>
  listParams(instrument).filter((p) => p.spec.type === "number" && p.spec.mod !== "none"),
);

const RouteRow = memo(function RouteRow({
  route,
  targets,
  sources,
}: {
  route: Route;
  targets: readonly Target[];
  sources: readonly SourceSpec[];
}) {
  const target = useParam(route.target);
  const spec = target?.spec as NumberParam | undefined;
  const commands = useMemo(() => routeCommands(route), [route]);
  const problem = useInstrument((i) => routeProblem(i, route));
  const most = spec ? amountRange(spec) : 1;
  const set = (amount: number, gesture: string | null) =>
    session.commit(changeRoute(route.id, { amount: Math.min(most, Math.max(-most, amount)) }), gesture);
  const text = spec ? formatAmount(spec, route.amount) : String(route.amount);
  const typed = (given: string) => {
    const parsed = spec ? parseAmount(spec, given) : null;
    if (parsed === null) return false;
    set(parsed, null);
    return true;
  };
  return (
    <WithMenu commands={commands}>
      <div
        role="group"
        aria-label={`Route from ${route.source} to ${target?.label ?? "nothing"}`}
        className="border-rule border-t py-0.5"
      >
        <div className={TRACKS}>
          <Toggle
            label="Route on"
            hidden
            on={route.on}
            onChange={(on) => session.commit(changeRoute(route.id, { on }))}
          />
          <Choice
            label="Source"
            value={route.source}
            options={sources}
            onChange={(source) => session.commit(changeRoute(route.id, { source }))}
          />
          <span className="text-center text-plum">→</span>
          <Choice
            label="Target"
            value={route.target}
            options={targets}
            onChange={(address) =>
              session.commit(
                changeRoute(route.id, {
                  target: address,
                  amount: Math.sign(route.amount) * Math.min(1, Math.abs(route.amount)),
                }),
              )
            }
          />
          <Scale
            label="Depth"
            travel={(route.amount / most + 1) / 2}
            origin={0.5}
            colour="plum"
            text={text}
            set={(t, g) => set((t * 2 - 1) * most, g)}
            reset={() => set(0, null)}
          />
          <Well
            label="Depth value"
            text={text}
            width={86}
            align="right"
            onType={typed}
            onStep={(n) => set(route.amount + (n * most) / 100, "step")}
          />
          <MenuButton label="What can be done with the route" commands={commands} />
        </div>
        <RouteDetails route={route} />
        {problem && <p className="pb-1 pl-[60px] text-ochre text-s">This route does nothing: {problem}.</p>}
      </div>
    </WithMenu>
  );
});
