import { Plus, Volume2, VolumeX, X } from "lucide-react";
import { type CSSProperties, useEffect, useMemo, useRef, useState } from "react";
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
import { formatValue, travelOf, valueAt } from "../../../core/params";
import { unitSpec } from "../../../core/units";
import type { Command } from "../../state/commands";
import { freshId } from "../../state/ids";
import { tell } from "../../state/notices";
import { session } from "../../state/session";
import { typedValue } from "../../state/typed-value";
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
const BOX = { width: 168, height: 46 };
const LEAST_GAP = 150;
const MOST_GAP = 230;
const ROW = 74;
const EDGE = 16;
interface Point {
  readonly x: number;
  readonly y: number;
}

/** A way that a layer can be led into another. */
interface Way {
  readonly label: string;
  readonly run: () => void;
}

/** All ways in which a layer can be led into another; none where it can't be, which `refusal` gives reasons for. */
function waysInto(from: string, to: string): readonly Way[] {
  const { instrument } = session;
  if (!instrument || refusal(from, to)) return [];
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
      label: "Into its stages, as audio",
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
  if (!instrument) return null;
  if (from === to) return "A layer can’t be its own input.";
  const name = (id: string) => instrument.layers.find((l) => l.id === id)?.name ?? id;
  return wouldRing(instrument, from, to)
    ? `${name(to)} is an input of ${name(from)} already: it would be a feedback loop.`
    : null;
}

/** Where the boxes stand in a picture as wide as there is room. */
function layOut({ places, columns, rows }: LinkPicture, width: number) {
  const gap = Math.min(
    MOST_GAP,
    Math.max(LEAST_GAP, (width - 3 * EDGE - columns * BOX.width) / Math.max(1, columns - 1)),
  );
  const at = (column: number, row: number): Point => ({
    x: EDGE + column * (BOX.width + gap),
    y: EDGE + row * ROW,
  });
  const boxes = new Map(places.map((p) => [p.layer, at(p.column, p.row)]));
  return { boxes, size: { width: at(columns, 0).x - gap + EDGE, height: EDGE + rows * ROW } };
}

/** A line from the right of a box to the left of another. */
function curve(from: Point, to: Point): string {
  const bend = Math.max(30, Math.abs(to.x - from.x) / 2);
  return `M${from.x} ${from.y} C${from.x + bend} ${from.y} ${to.x - bend} ${to.y} ${to.x} ${to.y}`;
}

const exitOf = (box: Point): Point => ({ x: box.x + BOX.width, y: box.y + BOX.height / 2 });

/** A line of the picture, and where what says how much stands on it. */
interface Line {
  readonly link: LayerLink;
  readonly path: string;
  readonly label: Point;
}

function linesOf(links: readonly LayerLink[], boxes: ReadonlyMap<string, Point>): Line[] {
  return links.flatMap((link) => {
    const [start, end] = [boxes.get(link.from), boxes.get(link.to)];
    if (!start || !end) return [];
    // Those that end in one box end beside each other, in the order in which they come.
    const height = ({ from }: LayerLink) => boxes.get(from)?.y ?? 0;
    const into = links.filter((l) => l.to === link.to).sort((p, q) => height(p) - height(q));
    const a = exitOf(start);
    const b = { x: end.x, y: end.y + (BOX.height * (into.indexOf(link) + 1)) / (into.length + 1) };
    const among = into.indexOf(link) - (into.length - 1) / 2;
    // Between the columns, where no box is; those of one box above each other.
    const label = { x: end.x - LEAST_GAP / 2, y: (b.y * 3 + a.y) / 4 + among * 25 };
    return [{ link, path: curve(a, b), label }];
  });
}

/** How layers are led into each other, as a picture that is changed by hand: from a layer's dot a line is drawn to where it is to go. */
export function LinksView() {
  const layers = useInstrument((i) => i.layers);
  const open = useView((v) => v.soundUnit);
  const [own, { width }] = useSize<HTMLDivElement>();
  const picture = useMemo(() => linkPicture(layers), [layers]);
  const { boxes, size } = layOut(picture, width);
  const lines = linesOf(picture.links, boxes);
  const [drawn, setDrawn] = useState<{ from: string; to: Point; over: string | null } | null>(null);
  const start = drawn && boxes.get(drawn.from);
  return (
    <div ref={own} className="relative min-h-0 flex-1 overflow-auto">
      <div role="group" aria-label="How layers are routed into each other" className="relative" style={size}>
        <svg width={size.width} height={size.height} aria-hidden className="absolute inset-0">
          {lines.map(({ path, link }) => (
            <path
              key={link.address}
              d={path}
              fill="none"
              strokeWidth={2}
              strokeDasharray={link.as === "sum" ? "6 4" : undefined}
              className={link.address === open ? "stroke-cobalt" : "stroke-ink"}
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
        {lines.map((line) => (
          <LineLabel key={line.link.address} line={line} open={line.link.address === open} />
        ))}
      </div>
      {lines.length === 0 && (
        <p className="px-4 pb-2 text-ink-soft">
          {layers.length < 2
            ? "Add another layer: one can move the other’s phase, or go into its stages."
            : "Draw a line from a layer’s dot to the layer that is to take it in: it moves that one’s phase, or goes into its stages."}
        </p>
      )}
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
  const { id, name, source, strip } = layer;
  const muted = Number(strip.params.mute ?? 0) >= 0.5;
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
      if (why) return tell("warning", why);
      const found = waysInto(id, to);
      if (found.length === 1) found[0]?.run();
      else setWays({ at: place, commands: found.map((w) => ({ id: w.label, ...w })) });
    },
    over: () => onDraw(null, null),
  });
  const commands = useMemo(
    (): readonly Command[] => [
      ...others
        .filter((l) => l.id !== id)
        .flatMap(({ id: to, name: into }) => {
          const why = refusal(id, to);
          if (why) return [{ id: to, label: `Route to ${into}`, why: () => "a feedback loop", run: () => {} }];
          return waysInto(id, to).map((way, n) => ({
            id: `${to} ${n}`,
            label: `Route to ${into}: ${way.label.toLowerCase()}`,
            run: way.run,
          }));
        }),
      ...layerCommands(id),
    ],
    [others, id],
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
            muted && "border-dashed",
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
          <button
            type="button"
            aria-pressed={muted}
            aria-label={`Mute ${name}`}
            title={
              muted
                ? "Muted: heard only through other layers. Press to unmute it"
                : "Press to mute it: other layers still get its sound"
            }
            onClick={() =>
              session.instrument &&
              session.commit(setParam(session.instrument, `layers/${id}/strip/mute`, muted ? 0 : 1))
            }
            className="grid size-6 shrink-0 place-items-center rounded-m text-ink-soft hover:bg-well hover:text-ink"
          >
            {muted ? <VolumeX size={14} aria-hidden /> : <Volume2 size={14} aria-hidden />}
          </button>
          <span className="mr-1.5 shrink-0">
            <MenuButton label={`Where ${name} can be routed`} commands={commands} />
          </span>
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

/** What a line does, by the parameter that says how much of it. */
const DOES: Readonly<Record<string, string>> = { phaseModulation: "phase", level: "fed", threshold: "listens" };

/** What a line does, how much of it, and how to take it away. */
function LineLabel({ line: { link, label }, open }: { line: Line; open: boolean }) {
  const own = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (open) own.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [open]);
  const unit = useUnit(link.address);
  const by = unit ? unitSpec(unit.kind).linkedBy : undefined;
  const address = `${link.address}/${by}`;
  const found = useParam(address);
  if (!unit || found?.spec.type !== "number") return null;
  const { spec } = found;
  const value = Number(found.value);
  const set = (next: number | string, gesture: string | null) =>
    session.instrument && session.commit(setParam(session.instrument, address, next), gesture);
  const cut = () => session.instrument && session.commit(cutLink(session.instrument, link.address));
  return (
    <div
      ref={own}
      style={{ left: label.x, top: label.y }}
      className={cx(
        "absolute z-10 flex -translate-x-1/2 -translate-y-1/2 items-center rounded-m border bg-sheet",
        open ? "border-cobalt" : "border-rule-strong",
      )}
    >
      <button
        type="button"
        title={`${unit.name}: ${spec.help} Delete takes the line away.`}
        onClick={() => openUnit(link.address)}
        onKeyDown={(event) => {
          if (event.key !== "Delete") return;
          cut();
          event.preventDefault();
          event.stopPropagation();
        }}
        className="max-w-[66px] truncate px-1 text-s hover:text-cobalt"
      >
        {DOES[by ?? ""] ?? unit.name}
      </button>
      <Well
        label={`${spec.label} of ${unit.name}`}
        text={formatValue(spec, value)}
        width={76}
        align="right"
        onType={(text) => {
          const parsed = typedValue(spec, text);
          if (parsed !== null) set(parsed, null);
          return parsed !== null;
        }}
        onStep={(steps) => set(valueAt(spec, travelOf(spec, value) + steps * 0.01), "step")}
      />
      <button
        type="button"
        aria-label={`Take the line into ${unit.name} away`}
        title="Take the line away"
        onClick={cut}
        className="grid size-5 place-items-center rounded-m text-ink-soft hover:bg-well hover:text-ink"
      >
        <X size={11} aria-hidden />
      </button>
    </div>
  );
}
