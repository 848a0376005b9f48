import { Plus, X } from "lucide-react";
import { type CSSProperties, type KeyboardEvent, useMemo, useState } from "react";
import {
  cutLink,
  feedInto,
  type Layer,
  type LayerLink,
  type LinkPicture,
  leadInto,
  linkEntries,
  linkPicture,
  setParam,
  wouldRing,
} from "../../../core/instrument";
import { formatValue, parseValue, travelOf, valueAt } from "../../../core/params";
import { unitSpec } from "../../../core/units";
import type { Command } from "../../state/commands";
import { freshId } from "../../state/ids";
import { tell } from "../../state/notices";
import { session } from "../../state/session";
import { useInstrument, useParam, useUnit } from "../../state/use-session";
import { useView } from "../../state/view";
import { layerCommands, openUnit } from "../../units/unit-commands";
import { MenuButton, WithMenu } from "../../widgets/CommandMenu";
import { cx } from "../../widgets/class-names";
import { useDrag } from "../../widgets/use-drag";
import { useSize } from "../../widgets/use-size";
import { Well } from "../../widgets/Well";
import { Picture } from "./UnitChip";

/** Of a layer's box, and of the ways between them, in pixels. */
const BOX = { width: 150, height: 46 };
const LEAST_GAP = 128;
const MOST_GAP = 230;
const ROW = 74;
const EDGE = 16;
/** Stands for the whole, into which layers are heard. */
const WHOLE = "·";

interface Point {
  readonly x: number;
  readonly y: number;
}

/** A way that a layer can be led into another. */
interface Way {
  readonly label: string;
  readonly run: () => void;
}

/** All ways in which a layer can be led into another, or into the whole; none where it can't be, which `refusal` gives reasons for. */
function waysInto(from: string, to: string): readonly Way[] {
  const { instrument } = session;
  if (!instrument || refusal(from, to)) return [];
  if (to === WHOLE)
    return [
      {
        label: "Let it be heard",
        run: () => session.commit(setParam(instrument, `layers/${from}/strip/heard`, 1)),
      },
    ];
  const layer = instrument.layers.find((l) => l.id === to);
  if (!layer) return [];
  return [
    ...linkEntries(layer)
      .filter((entry) => !entry.taken)
      .map((entry) => ({
        label: entry.source ? `Move the phase of its ${entry.name}` : `Into its ${entry.name}`,
        run: () => {
          session.commit(leadInto(instrument, from, entry.address));
          openUnit(entry.address);
        },
      })),
    {
      label: "Into its stages, as a sound",
      run: () => {
        const id = freshId(new Set(layer.stages.map((u) => u.id)));
        session.commit(feedInto(instrument, from, to, id));
        openUnit(`layers/${to}/stages/${id}`);
      },
    },
  ];
}

/** Why a layer can't be led into another; null where it can. */
function refusal(from: string, to: string): string | null {
  const { instrument } = session;
  if (!instrument || to === WHOLE) return null;
  if (from === to) return "A layer can’t feed itself.";
  const name = (id: string) => instrument.layers.find((l) => l.id === id)?.name ?? id;
  return wouldRing(instrument, from, to) ? `${name(to)} feeds ${name(from)} already: it would be a ring.` : null;
}

/** Where the boxes stand in a picture as wide as there is room. */
function layOut({ places, columns, rows }: LinkPicture, width: number) {
  // The whole stands in a column of its own.
  const gap = Math.min(MOST_GAP, Math.max(LEAST_GAP, (width - 2 * EDGE - (columns + 1) * BOX.width) / columns));
  const at = (column: number, row: number): Point => ({
    x: EDGE + column * (BOX.width + gap),
    y: EDGE + row * ROW,
  });
  const boxes = new Map(places.map((p) => [p.layer, at(p.column, p.row)]));
  const whole = at(columns, Math.max(0, (rows - 1) / 2));
  boxes.set(WHOLE, whole);
  return { boxes, size: { width: whole.x + BOX.width + EDGE, height: EDGE * 2 + Math.max(1, rows) * ROW } };
}

/** A line from the right of a box to the left of another. */
function curve(from: Point, to: Point): string {
  const bend = Math.max(30, Math.abs(to.x - from.x) / 2);
  return `M${from.x} ${from.y} C${from.x + bend} ${from.y} ${to.x - bend} ${to.y} ${to.x} ${to.y}`;
}

const exitOf = (box: Point): Point => ({ x: box.x + BOX.width, y: box.y + BOX.height / 2 });

/** A line of the picture: what leads a layer somewhere, where it ends, and where what says how much stands on it. */
interface Line {
  readonly key: string;
  readonly path: string;
  readonly label: Point;
  readonly from: string;
  readonly link: LayerLink | null;
}

function linesOf(layers: readonly Layer[], links: readonly LayerLink[], boxes: ReadonlyMap<string, Point>): Line[] {
  const heard = layers.filter((l) => Number(l.strip.params.heard ?? 1) >= 0.5);
  const all = [
    ...links.map((link) => ({ from: link.from, to: link.to, link })),
    ...heard.map((l) => ({ from: l.id, to: WHOLE, link: null })),
  ];
  return all.flatMap(({ from, to, link }) => {
    const [start, end] = [boxes.get(from), boxes.get(to)];
    if (!start || !end) return [];
    // Those that end in one box end beside each other.
    const into = all.filter((l) => l.to === to);
    const nth = into.findIndex((l) => l.from === from && l.link === link);
    const share = (nth + 1) / (into.length + 1);
    const a = exitOf(start);
    const b = { x: end.x, y: end.y + BOX.height * share };
    // Nearer to where it ends: lines part there.
    const t = 0.6;
    const label = { x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * (t * t * (3 - 2 * t)) };
    return [{ key: link?.address ?? `${from} heard`, path: curve(a, b), label, from, link }];
  });
}

/** How layers are led into each other, as a picture that is changed by hand: from a layer's dot a line is drawn to where it is to go. */
export function LinksView() {
  const layers = useInstrument((i) => i.layers);
  const open = useView((v) => v.soundUnit);
  const [own, { width }] = useSize<HTMLDivElement>();
  const picture = useMemo(() => linkPicture(layers), [layers]);
  const { boxes, size } = layOut(picture, width);
  const lines = linesOf(layers, picture.links, boxes);
  const [drawn, setDrawn] = useState<{ from: string; to: Point; over: string | null } | null>(null);
  const start = drawn && boxes.get(drawn.from);
  return (
    <div ref={own} className="relative min-h-0 flex-1 overflow-auto">
      <div role="group" aria-label="How layers are led into each other" className="relative" style={size}>
        <svg width={size.width} height={size.height} aria-hidden className="absolute inset-0">
          {lines.map(({ key, path, link }) => (
            <path
              key={key}
              d={path}
              fill="none"
              strokeWidth={link ? 2 : 1.5}
              strokeDasharray={link?.as === "sum" ? "6 4" : link ? undefined : "1 4"}
              strokeLinecap="round"
              className={link && link.address === open ? "stroke-cobalt" : "stroke-ink"}
            />
          ))}
          {drawn && start && (
            <path d={curve(exitOf(start), drawn.to)} fill="none" strokeWidth={2} className="stroke-cobalt" />
          )}
        </svg>
        {layers.map((layer) => (
          <LayerBox
            key={layer.id}
            layer={layer}
            others={layers}
            at={boxes.get(layer.id) as Point}
            here={open?.startsWith(`layers/${layer.id}/`) ?? false}
            over={drawn?.over === layer.id ? (refusal(drawn.from, layer.id) === null ? "takes" : "refuses") : null}
            onDraw={(to, over) => setDrawn(to && { from: layer.id, to, over })}
            origin={own}
          />
        ))}
        <div
          data-entry={WHOLE}
          style={placed(boxes.get(WHOLE) as Point)}
          className={cx(
            "absolute grid place-items-center rounded-m border border-ink-soft border-dashed text-ink-soft",
            drawn?.over === WHOLE && "border-cobalt bg-tint-cobalt",
          )}
        >
          the whole
        </div>
        {lines.map((line) => (
          <LineLabel key={line.key} line={line} open={line.link?.address === open} />
        ))}
      </div>
    </div>
  );
}

const placed = ({ x, y }: Point): CSSProperties => ({ left: x, top: y, ...BOX });

/** A layer, with the dot from which lines are drawn, and what it can be led into as a menu. */
function LayerBox({
  layer,
  others,
  at,
  here,
  over,
  onDraw,
  origin,
}: {
  layer: Layer;
  others: readonly Layer[];
  at: Point;
  here: boolean;
  over: "takes" | "refuses" | null;
  onDraw: (to: Point | null, over: string | null) => void;
  origin: React.RefObject<HTMLElement | null>;
}) {
  const { id, name, source } = layer;
  const [ways, setWays] = useState<{ at: Point; commands: readonly Command[] } | null>(null);
  const entryAt = (event: { clientX: number; clientY: number }): string | null =>
    document
      .elementsFromPoint(event.clientX, event.clientY)
      .map((e) => e.closest<HTMLElement>("[data-entry]")?.dataset.entry)
      .find((entry) => entry !== undefined) ?? null;
  const inPicture = (event: { clientX: number; clientY: number }): Point | null => {
    const view = origin.current;
    const box = view?.getBoundingClientRect();
    if (!view || !box) return null;
    return { x: event.clientX - box.left + view.scrollLeft, y: event.clientY - box.top + view.scrollTop };
  };
  const drawing = useDrag<true>({
    slack: 3,
    start: (event) => {
      event.stopPropagation();
      return true;
    },
    move: (_drag, event) => onDraw(inPicture(event), entryAt(event)),
    end: (_drag, event) => {
      const to = entryAt(event);
      const place = inPicture(event);
      if (to === null || !place) return;
      const why = refusal(id, to);
      if (why) return tell("doubt", why);
      const found = waysInto(id, to);
      if (found.length === 1) found[0]?.run();
      else setWays({ at: place, commands: found.map((w) => ({ id: w.label, ...w })) });
    },
    over: () => onDraw(null, null),
  });
  const commands = useMemo(
    (): readonly Command[] => [
      ...[...others.filter((l) => l.id !== id), null].flatMap((other) => {
        const to = other?.id ?? WHOLE;
        if (to === WHOLE && Number(layer.strip.params.heard ?? 1) >= 0.5) return [];
        const why = refusal(id, to);
        const into = other ? `Lead into ${other.name}` : "Lead into the whole";
        if (why) return [{ id: to, label: into, why: () => why, run: () => {} }];
        return waysInto(id, to).map((way, n) => ({
          id: `${to} ${n}`,
          label: other ? `${into}: ${way.label.toLowerCase()}` : into,
          run: way.run,
        }));
      }),
      ...layerCommands(id),
    ],
    [others, id, layer],
  );
  return (
    <>
      <WithMenu commands={commands}>
        <div
          data-entry={id}
          style={placed(at)}
          className={cx(
            "absolute flex items-center rounded-m border bg-sheet",
            here ? "border-cobalt bg-tint-cobalt" : "border-ink",
            over === "takes" && "bg-tint-cobalt outline outline-2 outline-cobalt",
            over === "refuses" && "bg-tint-vermilion outline outline-2 outline-vermilion",
          )}
        >
          <button
            type="button"
            aria-pressed={here}
            title={`${name}: ${unitSpec(source.kind).label}`}
            onClick={() => openUnit(`layers/${id}/source`)}
            className="flex h-full min-w-0 flex-1 items-center gap-2 rounded-m pl-2.5 text-left"
          >
            <Picture unit={source} />
            <span className="min-w-0 leading-tight">
              <span className={cx("block truncate", here && "font-semibold")}>{name}</span>
              <span className="block truncate text-ink-soft text-s">{source.name}</span>
            </span>
          </button>
          <MenuButton label={`Where ${name} can be led`} commands={commands} />
          <span
            {...drawing}
            aria-hidden
            title="Draw a line from here to the layer that is to take it in"
            className="-right-[9px] absolute top-1/2 grid size-[18px] -translate-y-1/2 cursor-crosshair touch-none place-items-center rounded-full border-2 border-ink bg-sheet hover:border-cobalt hover:bg-tint-cobalt"
          >
            <Plus size={10} aria-hidden />
          </span>
        </div>
      </WithMenu>
      {ways && <Ways {...ways} onDone={() => setWays(null)} />}
    </>
  );
}

/** The ways in which a line that was just drawn can be meant. */
function Ways({ at, commands, onDone }: { at: Point; commands: readonly Command[]; onDone: () => void }) {
  return (
    <div
      role="menu"
      aria-label="How it comes in"
      tabIndex={-1}
      style={{ left: at.x - 12, top: at.y - 12 }}
      className="absolute z-20 min-w-56 rounded-m border border-rule-strong bg-sheet p-1 shadow-md"
      onKeyDown={(event) => {
        const items = [...event.currentTarget.querySelectorAll<HTMLElement>("[role=menuitem]")];
        const now = items.indexOf(document.activeElement as HTMLElement);
        const by = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
        if (event.key === "Escape") onDone();
        else if (by !== 0) items[(now + by + items.length) % items.length]?.focus();
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) onDone();
      }}
    >
      {commands.map((command, n) => (
        <button
          key={command.id}
          type="button"
          role="menuitem"
          ref={n === 0 ? (item) => item?.focus() : undefined}
          onClick={() => {
            onDone();
            command.run();
          }}
          className="flex h-7 w-full items-center rounded-[2px] px-2.5 text-left hover:bg-tint-cobalt focus:bg-tint-cobalt"
        >
          {command.label}
        </button>
      ))}
    </div>
  );
}

/** What a line does, how much of it, and how to take it away. */
function LineLabel({ line: { link, from, label }, open }: { line: Line; open: boolean }) {
  const unit = useUnit(link?.address ?? `layers/${from}/strip`);
  const by = unit && link ? unitSpec(unit.kind).linkedBy : "level";
  const address = `${link?.address ?? `layers/${from}/strip`}/${by}`;
  const found = useParam(address);
  if (!unit || found?.spec.type !== "number") return null;
  const { spec } = found;
  const value = Number(found.value);
  const set = (next: number | string, gesture: string | null) =>
    session.instrument && session.commit(setParam(session.instrument, address, next), gesture);
  const cut = () => {
    const { instrument } = session;
    if (!instrument) return;
    session.commit(link ? cutLink(instrument, link.address) : setParam(instrument, `layers/${from}/strip/heard`, 0));
  };
  const name = link ? unit.name : "Heard";
  const onKey = (event: KeyboardEvent) => {
    if (event.key !== "Delete" || event.target instanceof HTMLInputElement) return;
    cut();
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      style={{ left: label.x, top: label.y }}
      onKeyDown={onKey}
      className={cx(
        "absolute z-10 flex -translate-x-1/2 -translate-y-1/2 items-center rounded-m border bg-sheet",
        open ? "border-cobalt" : "border-rule-strong",
      )}
    >
      <button
        type="button"
        title={`${name}: ${spec.help}`}
        onClick={() => openUnit(link?.address ?? address.slice(0, address.lastIndexOf("/")))}
        className="max-w-[66px] truncate px-1 text-s hover:text-cobalt"
      >
        {link ? (by === "depth" ? "phase" : by === "threshold" ? "listens" : "fed") : "heard"}
      </button>
      <Well
        label={`${spec.label} of ${name}`}
        text={formatValue(spec, value)}
        width={64}
        align="right"
        onType={(text) => {
          const parsed = parseValue(spec, text);
          if (parsed !== null) set(parsed, null);
          return parsed !== null;
        }}
        onStep={(steps) => set(valueAt(spec, travelOf(spec, value) + steps * 0.01), "step")}
      />
      <button
        type="button"
        aria-label={link ? `Take the line into ${name} away` : "Let it be heard no longer"}
        title={link ? "Take the line away" : "Let it be heard no longer"}
        onClick={cut}
        className="grid size-5 place-items-center rounded-m text-ink-soft hover:bg-well hover:text-ink"
      >
        <X size={11} aria-hidden />
      </button>
    </div>
  );
}
