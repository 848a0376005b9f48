import { memo, useRef, useState } from "react";
import { idleReason, type Range, reachOfRoutes } from "../../core/engine";
import { setParam } from "../../core/instrument";
import { formatValue, modulated, type NumberParam, type ParamSpec, travelOf, valueAt } from "../../core/params";
import { PARAM_DRAG } from "../state/face-adding";
import { paramCommands } from "../state/param-commands";
import { session } from "../state/session";
import { typedValue } from "../state/typed-value";
import { useInstrumentParts, useParam } from "../state/use-session";
import { Hint } from "./Button";
import { Choice } from "./Choice";
import { WithMenu } from "./CommandMenu";
import { cx } from "./class-names";
import { Scale } from "./Scale";
import { Toggle } from "./Toggle";
import { Well } from "./Well";

interface SpecControlProps {
  readonly spec: ParamSpec;
  readonly value: number | string;
  /** What stands beside it, and its full name for those who can't see where it stands. */
  readonly label: string;
  readonly name: string;
  readonly set: (value: number | string, gesture: string | null) => void;
  /** How far routes can move it; null where none does. */
  readonly moved?: Range | null;
  /** Why it has no effect at present; it can be set all the same. */
  readonly idle?: string | null;
  /** Its address, by which its name can be dragged onto the face. */
  readonly address?: string;
  /** Its place in the reference: `filter/cutoff`. */
  readonly reference?: string | undefined;
}

/** The control of a parameter as its declaration says: label, scale and typed value, or a choice. */
export function SpecControl({
  spec,
  value,
  label,
  name,
  set,
  moved = null,
  idle = null,
  address,
  reference,
}: SpecControlProps) {
  const carried = { ...(address === undefined ? {} : { carries: address }), reference };
  if (spec.type === "choice") {
    return (
      <Row label={label} help={spec.help} {...carried}>
        <Choice
          label={name}
          value={String(value)}
          options={spec.choices}
          onChange={(id) => set(id, null)}
          className="flex-1"
        />
      </Row>
    );
  }
  const number = Number(value);
  if (spec.unit === "switch") {
    return (
      <Row label={label} help={spec.help} routed={moved !== null} {...carried}>
        <Toggle label={name} hidden on={number >= 0.5} onChange={(on) => set(on ? 1 : 0, null)} />
      </Row>
    );
  }
  const typed = (text: string) => {
    const parsed = typedValue(spec, text, label);
    if (parsed === null) return false;
    set(parsed, null);
    return true;
  };
  const step = (steps: number) => set(valueAt(spec, travelOf(spec, number) + steps * 0.01), "step");
  return (
    <Row
      label={label}
      help={idle ? `${spec.help} ${idle}` : spec.help}
      routed={moved !== null}
      idle={idle !== null}
      {...carried}
    >
      <Scale
        label={name}
        travel={travelOf(spec, number)}
        text={formatValue(spec, number)}
        origin={spec.min < 0 && spec.max > 0 && spec.lowest === undefined ? travelOf(spec, 0) : 0}
        reach={moved && reachOf(spec, number, moved)}
        set={(travel, gesture) => set(valueAt(spec, travel), gesture)}
        reset={() => set(spec.default, null)}
      />
      <Well
        label={`${name} value`}
        text={formatValue(spec, number)}
        onType={typed}
        onStep={step}
        width={76}
        align="right"
      />
    </Row>
  );
}

/** The control of a parameter of the document, by its address. */
export const ParamControl = memo(function ParamControl({ address, label }: { address: string; label?: string }) {
  const found = useParam(address);
  const moved = useInstrumentParts((i) => reachOfRoutes(i, address));
  if (!found) return null;
  return (
    <WithMenu commands={paramCommands(address, found)}>
      <div className="contents">
        <SpecControl
          spec={found.spec}
          value={found.value}
          label={label ?? found.spec.label}
          name={found.label}
          set={(next, gesture) =>
            session.instrument && session.commit(setParam(session.instrument, address, next), gesture)
          }
          moved={moved}
          idle={found.unit && idleReason(found.unit, found.spec.id)}
          address={address}
          reference={found.unit ? `${found.unit.kind}/${found.spec.id}` : undefined}
        />
      </div>
    </WithMenu>
  );
});

/** The stretch of a control's travel that its routes can reach. */
function reachOf(spec: NumberParam, value: number, { low, high }: Range): [number, number] {
  return [travelOf(spec, modulated(spec, value, low)), travelOf(spec, modulated(spec, value, high))];
}

/** Milliseconds with the focus on a control after which it explains itself. */
const EXPLAIN = 900;

/** A labelled line in a panel; the label explains itself. */
export function Row({
  label,
  help,
  routed,
  idle,
  carries,
  reference,
  children,
}: {
  label: string;
  help?: string;
  routed?: boolean;
  idle?: boolean;
  /** The address of the parameter that is carried when the label is dragged, onto the face. */
  carries?: string;
  /** Its place in the reference, which F1 opens. */
  reference?: string | undefined;
  children: React.ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const coming = useRef<ReturnType<typeof setTimeout> | null>(null);
  const leave = () => {
    if (coming.current !== null) clearTimeout(coming.current);
    coming.current = null;
    setOpen(false);
  };
  // What it is can be read by whoever comes by keyboard or touch as well.
  const come = (event: React.FocusEvent) => {
    if (help && event.target.matches(":focus-visible")) coming.current ??= setTimeout(() => setOpen(true), EXPLAIN);
  };
  const text = (
    // biome-ignore lint/a11y/useKeyWithClickEvents: for touch; by keyboard it explains itself once its control has the focus
    <span
      className={cx("line-clamp-2 leading-[1.15]", routed && "text-plum", carries !== undefined && "cursor-grab")}
      onClick={() => setOpen(help !== undefined)}
      draggable={carries !== undefined}
      onDragStart={(event) => {
        if (carries === undefined) return;
        event.dataTransfer.setData(PARAM_DRAG, carries);
        event.dataTransfer.effectAllowed = "link";
      }}
    >
      {label}
      {routed && <span title="moved by a route"> ~</span>}
      {idle && <span className="text-ink-soft text-s"> · idle</span>}
    </span>
  );
  return (
    <div
      data-reference={reference}
      className="grid min-h-[27px] grid-cols-[84px_minmax(0,1fr)] items-center gap-x-1"
      onFocus={come}
      onBlur={leave}
      onKeyDown={leave}
    >
      {help ? (
        <Hint text={help} open={open} onOpen={setOpen}>
          {text}
        </Hint>
      ) : (
        text
      )}
      <div className={idle ? "flex min-w-0 items-center gap-2 opacity-75" : "flex min-w-0 items-center gap-2"}>
        {children}
      </div>
    </div>
  );
}

/** A titled part of a panel. */
export function Section({
  title,
  aside,
  children,
}: {
  title: React.ReactNode;
  aside?: React.ReactNode;
  children: React.ReactNode;
}) {
  return (
    <section className="border-rule border-t pt-2 pb-3 first:border-t-0 first:pt-0">
      <div className="mb-1 flex items-center justify-between text-ink-soft text-s">
        <h3>{title}</h3>
        {aside}
      </div>
      {children}
    </section>
  );
}

/** What need not be seen always: it is made once somebody opens it. */
export function Fold({
  title,
  aside,
  children,
  className,
}: {
  title: React.ReactNode;
  /** Stands at the end of its line, folded or not. */
  aside?: React.ReactNode;
  children: React.ReactNode;
  className?: string;
}) {
  const [open, setOpen] = useState(false);
  const fold = (
    <details className={className} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer py-1">{title}</summary>
      {open && children}
    </details>
  );
  if (!aside) return fold;
  return (
    <div className="relative">
      {fold}
      <div className="absolute top-[3px] right-0">{aside}</div>
    </div>
  );
}
