import { useState } from "react";
import { type Curve, changeRoute, type Route } from "../../../core/instrument";
import { formatNumber, parseNumber } from "../../../core/params";
import { session } from "../../state/session";
import { useSources } from "../../state/use-session";
import { Choice } from "../../widgets/Choice";
import { Row } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { CurveTable } from "./CurveTable";

const line = (bend: number): Curve => [
  { x: 0, y: 0, bend },
  { x: 1, y: 1, bend: 0 },
];
/** Curves to choose from; anything else is the route's own. */
const CURVES: readonly { readonly id: string; readonly label: string; readonly curve: Curve | null }[] = [
  { id: "straight", label: "Linear", curve: null },
  { id: "fast", label: "Fast at first", curve: line(0.4) },
  { id: "slow", label: "Slow at first", curve: line(-0.4) },
  {
    id: "switch",
    label: "From the middle on",
    curve: [
      { x: 0, y: 0, bend: 0 },
      { x: 0.5, y: 0, bend: 0 },
      { x: 0.5, y: 1, bend: 0 },
      { x: 1, y: 1, bend: 0 },
    ],
  },
  {
    id: "invert",
    label: "Inverted",
    curve: [
      { x: 0, y: 1, bend: 0 },
      { x: 1, y: 0, bend: 0 },
    ],
  },
  {
    id: "own",
    label: "Own points",
    curve: [
      { x: 0, y: 0, bend: 0 },
      { x: 0.5, y: 0.25, bend: 0 },
      { x: 1, y: 1, bend: 0 },
    ],
  },
];

const nameOf = (curve: Curve | null): string =>
  CURVES.find((c) => JSON.stringify(c.curve) === JSON.stringify(curve))?.id ?? "own";

/** What else a route has: the curve of its source, another source that scales it, and how fast it follows. */
export function RouteDetails({ route }: { route: Route }) {
  const sources = useSources();
  const curve = nameOf(route.curve);
  // Its lists are many: they are made once somebody looks.
  const [open, setOpen] = useState(false);
  const said = [
    route.curve && CURVES.find((c) => c.id === curve)?.label.toLowerCase(),
    route.scale && `scaled by ${sources.find((s) => s.id === route.scale)?.label ?? "a source that is gone"}`,
    route.smooth !== null && `smoothed over ${formatNumber("seconds", route.smooth)}`,
  ].filter(Boolean);
  return (
    <details className="pl-[60px] text-s" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="min-h-6 cursor-pointer py-1 text-ink-soft">
        {said.length > 0 ? said.join(" · ") : "curve, scale, smoothing"}
      </summary>
      {open && <Fields route={route} curve={curve} />}
    </details>
  );
}

function Fields({ route, curve }: { route: Route; curve: string }) {
  const sources = useSources();
  return (
    <>
      <div className="grid max-w-[520px] grid-cols-2 gap-x-6 pb-2">
        <Row label="Curve" help="What becomes of the source's value on its way">
          <Choice
            label="Curve of the route"
            value={curve}
            options={CURVES}
            onChange={(id) =>
              session.commit(changeRoute(route.id, { curve: CURVES.find((c) => c.id === id)?.curve ?? null }))
            }
            className="flex-1"
          />
        </Row>
        <Row label="Scaled by" help="Another source by which the movement is multiplied, such as the wheel">
          <Choice
            label="Scale of the route"
            value={route.scale ?? "none"}
            options={[{ id: "none", label: "nothing" }, ...sources]}
            onChange={(id) => session.commit(changeRoute(route.id, { scale: id === "none" ? null : id }))}
            className="flex-1"
          />
        </Row>
        <Row label="Smoothing" help="How fast it follows; by itself 5 ms for wheels and controllers">
          <Well
            label="Smoothing of the route"
            text={route.smooth === null ? "by itself" : formatNumber("seconds", route.smooth)}
            width={100}
            onType={(text) => {
              const seconds = /^by/.test(text.trim()) || text.trim() === "" ? null : parseNumber("seconds", text);
              if (seconds === null && text.trim() !== "" && !/^by/.test(text.trim())) return false;
              const smooth = seconds === null ? null : Math.min(10, Math.max(0, seconds));
              session.commit(changeRoute(route.id, { smooth }));
              return true;
            }}
            onStep={(steps) =>
              session.commit(
                changeRoute(route.id, { smooth: Math.min(10, Math.max(0, (route.smooth ?? 0.005) + steps * 0.001)) }),
                "step",
              )
            }
          />
        </Row>
      </div>
      {curve === "own" && route.curve && (
        <CurveTable
          curve={route.curve}
          xLabel="Source"
          most={1}
          low={-1}
          onChange={(next, gesture) => session.commit(changeRoute(route.id, { curve: next }), gesture)}
        />
      )}
    </>
  );
}
