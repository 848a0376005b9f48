import { Plus, Trash2 } from "lucide-react";
import { memo, useMemo } from "react";
import { routeProblem } from "../../../core/engine";
import {
  addRoute,
  addUnit,
  byIdentity,
  changeRoute,
  type Instrument,
  listParams,
  moveUnit,
  newUnit,
  type Route,
  removeRoute,
  removeUnit,
  renameUnit,
  type SourceSpec,
} from "../../../core/instrument";
import { amountRange, formatAmount, type NumberParam, parseAmount, plural } from "../../../core/params";
import { Station } from "../../shell/Station";
import { type Command, useCommands } from "../../state/commands";
import { freshId } from "../../state/ids";
import { session } from "../../state/session";
import { useInstrument, useInstrumentParts, useParam, useSources } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { ParamControl, Section } from "../../widgets/ParamControl";
import { Scale } from "../../widgets/Scale";
import { SortableList } from "../../widgets/SortableList";
import { Split } from "../../widgets/Split";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";
import { Envelopes, Lfos } from "./Movers";
import { RouteDetails } from "./RouteDetails";

/** Adds a route to the first filter's cutoff, or where there is none to the first layer's level. */
function newRouteForFirst(): void {
  const layer = session.instrument?.layers[0];
  if (!layer) return;
  const filter = layer.stages.find((s) => s.kind === "filter");
  const target = filter ? `layers/${layer.id}/stages/${filter.id}/cutoff` : `layers/${layer.id}/strip/level`;
  session.commit(addRoute({ id: freshId(), source: "velocity", target, amount: 1 }));
}

function newMacro(): void {
  const macros = session.instrument?.macros ?? [];
  const unit = newUnit("macro", freshId(new Set(macros.map((m) => m.id))), `Macro ${macros.length + 1}`);
  session.commit(addUnit("macros", unit));
}

const MOTION_COMMANDS: readonly Command[] = [
  { id: "route", label: "Add a route", run: newRouteForFirst },
  { id: "macro", label: "Add a macro", run: newMacro },
];

/** Motion: envelope, LFO, routes and macros. */
export function MotionStation() {
  const layer = useInstrument((i) => i.layers[0]);
  const routes = useInstrument((i) => i.routes);
  const macros = useInstrument((i) => i.macros.length);
  const targets = useTargets();
  const sources = useSources();
  useCommands("Motion", MOTION_COMMANDS);
  return (
    <Station
      title="Motion"
      facts={`${plural(routes.length, "route")} · ${plural(macros, "macro")}`}
      actions={
        <Button look="primary" onClick={newRouteForFirst} hint="Adds a route from a source to a parameter">
          <Plus size={14} aria-hidden /> Add route
        </Button>
      }
      inspector={<Macros />}
    >
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
        second={
          <section aria-label="Routes" className="min-h-0 flex-1 overflow-y-auto px-3.5 py-2">
            <div className="grid grid-cols-[52px_150px_20px_190px_1fr_86px_30px] items-center gap-x-2 pb-1 text-ink-soft text-s">
              <span>on</span>
              <span>source</span>
              <span />
              <span>moves</span>
              <span>by</span>
              <span />
              <span />
            </div>
            {routes.length === 0 && (
              <p className="py-3 text-ink-soft">
                Nothing moves yet. A route lets a source, such as velocity, the mod wheel or a macro, move a parameter
                by an amount.
              </p>
            )}
            {routes.map((route) => (
              <RouteRow key={route.id} route={route} targets={targets} sources={sources} />
            ))}
          </section>
        }
      />
    </Station>
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
    <div
      role="group"
      aria-label={`Route from ${route.source} to ${target?.label ?? "nothing"}`}
      className="border-rule border-t py-0.5"
    >
      <div className="grid grid-cols-[52px_150px_20px_190px_1fr_86px_30px] items-center gap-x-2">
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
          label="Amount"
          travel={(route.amount / most + 1) / 2}
          origin={0.5}
          colour="plum"
          text={text}
          set={(t, g) => set((t * 2 - 1) * most, g)}
          reset={() => set(0, null)}
        />
        <Well
          label="Amount value"
          text={text}
          width={86}
          align="right"
          onType={typed}
          onStep={(n) => set(route.amount + (n * most) / 100, "step")}
        />
        <Button
          look="quiet"
          aria-label="Remove route"
          className="px-1"
          onClick={() => session.commit(removeRoute(route.id))}
        >
          <Trash2 size={13} aria-hidden />
        </Button>
      </div>
      <RouteDetails route={route} />
      {problem && <p className="pb-1 pl-[60px] text-ochre text-s">This route does nothing: {problem}.</p>}
    </div>
  );
});

function Macros() {
  const macros = useInstrument((i) => i.macros);
  return (
    <>
      <div className="mb-2 flex items-center justify-between">
        <h2 className="font-display font-semibold text-l">Macros</h2>
        <Button onClick={newMacro}>
          <Plus size={13} aria-hidden /> Add
        </Button>
      </div>
      <p className="mb-3 text-ink-soft">
        One dial for whoever plays it. Route it to as many parameters as you like, and put it on the face.
      </p>
      <SortableList
        label="Macros in their order"
        ids={macros.map((m) => m.id)}
        nameOf={(id) => macros.find((m) => m.id === id)?.name ?? ""}
        onMove={(from, to) => session.commit(moveUnit("macros", macros[from]?.id ?? "", to))}
      >
        {(id, grip) => {
          const macro = macros.find((m) => m.id === id);
          return (
            macro && (
              <Section
                title={<span className="flex items-center gap-1">{grip} Name</span>}
                aside={
                  <button
                    type="button"
                    aria-label={`Remove ${macro.name}`}
                    title="Remove"
                    onClick={() => session.commit(removeUnit("macros", macro.id))}
                    className="rounded-m p-0.5 hover:bg-well"
                  >
                    <Trash2 size={12} aria-hidden />
                  </button>
                }
              >
                <Well
                  label="Name of the macro"
                  text={macro.name}
                  width={236}
                  onType={(name) => {
                    session.commit(renameUnit(`macros/${macro.id}`, name.trim() || "Macro"));
                    return true;
                  }}
                />
                <ParamControl address={`macros/${macro.id}/value`} />
              </Section>
            )
          );
        }}
      </SortableList>
    </>
  );
}
