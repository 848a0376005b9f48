import { Popover } from "radix-ui";
import { type RefObject, useRef } from "react";
import type { Search, Take } from "../../../core/instrument";
import { formatNumber, parseNumber, plural, travelOf, valueAt } from "../../../core/params";
import { isDrag } from "../../state/gesture";
import { setView, useView } from "../../state/view";
import { Button, Hint } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row } from "../../widgets/ParamControl";
import { Scale } from "../../widgets/Scale";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";
import { DETAILS, FIELDS, MAIN, type SearchField, WAYS } from "./search-fields";

/** Pause after the last movement by wheel or keys, until what was found is measured. */
const PAUSE = 350;

interface FindStripProps {
  readonly take: Take;
  readonly search: Search;
  readonly show: (change: Partial<Search>) => void;
  readonly settle: (change: Partial<Search>) => void;
  /** What was only shown is no longer. */
  readonly forget: () => void;
}

/** How a take's sounds are found: found live while a value moves, measured once it rests. */
export function FindStrip({ take, search, show, settle, forget }: FindStripProps) {
  const snap = useView((v) => v.snap);
  const timer: RefObject<ReturnType<typeof setTimeout> | null> = useRef(null);
  const due = useRef<Partial<Search> | null>(null);
  const stop = () => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
  };
  const finish = () => {
    stop();
    if (due.current) settle(due.current);
    due.current = null;
  };
  /** Shows what is found; measured once the drag has ended, or after a pause of wheel or keys. */
  const move = (change: Partial<Search>, gesture = "") => {
    show(change);
    due.current = change;
    stop();
    if (!isDrag(gesture)) timer.current = setTimeout(finish, PAUSE);
  };
  const well = (field: SearchField, width = 72) => (
    <Well
      label={`${field.label} value`}
      text={formatNumber(field.unit, search[field.id])}
      width={width}
      align="right"
      onType={(text) => {
        const parsed = parseNumber(field.unit, text);
        if (parsed === null) return false;
        settle({ [field.id]: Math.min(field.max, Math.max(field.min, parsed)) });
        return true;
      }}
      onStep={(n) =>
        move({
          [field.id]:
            field.unit === "decibels" || field.unit === "count"
              ? clamp(field, search[field.id] + n)
              : valueAt(field, travelOf(field, search[field.id]) + n / 100),
        })
      }
    />
  );
  const scale = (field: SearchField) => (
    <Scale
      label={field.label}
      travel={travelOf(field, search[field.id])}
      text={formatNumber(field.unit, search[field.id])}
      set={(t, gesture) => {
        const value = valueAt(field, t);
        move({ [field.id]: field.unit === "decibels" ? Math.round(value * 2) / 2 : value }, gesture);
      }}
      ended={(givenUp) => {
        if (!givenUp) return finish();
        stop();
        due.current = null;
        forget();
      }}
      reset={() => move({ [field.id]: field.default })}
    />
  );
  const details = DETAILS[search.by];
  return (
    <div className="flex h-10 shrink-0 items-center gap-2.5 border-rule border-b bg-ground px-3.5">
      <Choice
        label="Find"
        value={search.by}
        options={WAYS}
        onChange={(by) => {
          const change = { by: by as Search["by"] };
          if (take.slices.length > 0) move(change);
          else show(change);
        }}
        className="w-[104px]"
      />
      {MAIN[search.by].map((id) => (
        <div key={id} className="flex items-center gap-2">
          <Hint text={FIELDS[id].help}>
            <span>{FIELDS[id].label}</span>
          </Hint>
          {search.by !== "grid" && <div className="flex w-[150px]">{scale(FIELDS[id])}</div>}
          {well(FIELDS[id], search.by === "grid" ? 64 : 72)}
        </div>
      ))}
      {search.by === "markers" && (
        <span className="text-ink-soft">
          {take.markers.length === 0
            ? "this take's file has no markers"
            : `${plural(take.markers.length, "marker")} in the file`}
        </span>
      )}
      {details.length > 0 && (
        <Popover.Root>
          <Popover.Trigger asChild>
            <Button hint="Hold, gap, length, pre-roll and tail">Details</Button>
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              sideOffset={4}
              align="start"
              className="z-40 w-[320px] rounded-m border border-rule-strong bg-sheet p-3 shadow-md"
            >
              {details.map((id) => (
                <Row key={id} label={FIELDS[id].label} help={FIELDS[id].help}>
                  {scale(FIELDS[id])}
                  {well(FIELDS[id], 76)}
                </Row>
              ))}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
      <span className="num text-[12px] text-ink-soft">
        {take.floor === null ? "" : `floor ${formatNumber("decibels", take.floor)}`}
      </span>
      <span className="flex-1" />
      <Hint text="Dragged edges settle where the sound goes through zero; typed ones stay exact">
        <span>
          <Toggle label="Snap to zero" on={snap} onChange={(on) => setView({ snap: on })} />
        </span>
      </Hint>
    </div>
  );
}

const clamp = (field: SearchField, value: number) => Math.min(field.max, Math.max(field.min, value));
