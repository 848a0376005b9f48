import { X } from "lucide-react";
import { type Slice, settingOf, type Take, type Unit } from "../../../core/instrument";
import { unitSpec } from "../../../core/units";
import { audition, hear } from "../../state/audio-queries";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row, Section, SpecControl } from "../../widgets/ParamControl";
import { SortableList } from "../../widgets/SortableList";
import { audioWorker } from "../../workers/audio-worker";
import { changeTreatments, labelOf, newTreatment, TREATMENTS, type TreatmentKind } from "./treatments";

/** Parameters that are set on the wave, not typed. */
const PLACES = new Set(["learnFrom", "learnTo"]);

const learntFrom = ({ params }: Unit): string =>
  Number(params.learnTo) > Number(params.learnFrom)
    ? `${Number(params.learnFrom).toFixed(2)}–${Number(params.learnTo).toFixed(2)} s`
    : "the quietest ½ s";

interface TreatmentListProps {
  readonly take: Take;
  /** The slices that are treated; none means the whole take. */
  readonly slices: readonly Slice[];
  /** The frame that was clicked last in the wave. */
  readonly cursor: number | null;
}

/** What is done to the sound of some slices, or of the whole take, in order; the first slice's list stands for all. */
export function TreatmentList({ take, slices, cursor }: TreatmentListProps) {
  const [first] = slices;
  const units = first ? first.treatments : take.treatments;
  const ids = new Set(slices.map((s) => s.id));
  const many = slices.length > 1;
  const change = (name: string, fn: (units: readonly Unit[]) => readonly Unit[], gesture: string | null = null) =>
    changeTreatments(take, ids, name, fn, gesture);
  const set = (unit: Unit, id: string, value: number | string, gesture: string | null) =>
    change(
      `Set ${labelOf(unit).toLowerCase()}`,
      (list) =>
        list.map((u) =>
          u.id === unit.id || (many && u.kind === unit.kind) ? { ...u, params: { ...u.params, [id]: value } } : u,
        ),
      gesture,
    );
  /** Puts a treatment where another stands, in every slice that has both. */
  const reorder = (moved: Unit | undefined, other: Unit | undefined) => {
    if (!moved || !other) return;
    change("Reorder", (list) => {
      const [from, to] = [list.findIndex((u) => same(u, moved)), list.findIndex((u) => same(u, other))];
      if (from < 0 || to < 0) return list;
      const next = list.filter((_, i) => i !== from);
      next.splice(to, 0, list[from] as Unit);
      return next;
    });
  };
  const same = (u: Unit, unit: Unit) => u.id === unit.id || (many && u.kind === unit.kind);
  return (
    <Section
      title={first ? "Processing of the sound" : "Processing of every slice"}
      aside={
        first && (
          <span className="flex gap-2">
            <button type="button" className="underline" onClick={() => void audition(take.sha, first.start, first.end)}>
              before
            </button>
            <button
              type="button"
              className="underline"
              onClick={() =>
                void audioWorker()
                  .treated(take, first)
                  .then((audio) => hear(audio))
              }
            >
              after
            </button>
          </span>
        )
      }
    >
      <SortableList
        label="Treatments in their order"
        ids={units.map((u) => u.id)}
        nameOf={(id) => units.find((u) => u.id === id)?.name ?? ""}
        onMove={(from, to) => reorder(units[from], units[to])}
        className="flex flex-col gap-1"
      >
        {(id, grip) => {
          const i = units.findIndex((u) => u.id === id);
          const unit = units[i];
          if (!unit) return null;
          return (
            <div className="rounded-[2px] border border-rule px-1.5 pt-0.5 pb-1">
              <div className="flex h-6 items-center gap-1">
                {grip}
                <b className="flex-1 truncate font-semibold text-[12px]">
                  {i + 1} {unit.name}
                </b>
                <Button
                  look="quiet"
                  className="!h-5 px-1"
                  aria-label={`Remove ${unit.name}`}
                  onClick={() =>
                    change(`Remove ${labelOf(unit).toLowerCase()}`, (list) => list.filter((u) => !same(u, unit)))
                  }
                >
                  <X size={12} aria-hidden />
                </Button>
              </div>
              {unitSpec(unit.kind)
                .params.filter((spec) => !PLACES.has(spec.id))
                .map((spec) => (
                  <SpecControl
                    key={spec.id}
                    spec={spec}
                    value={settingOf(unit, spec.id) ?? spec.default}
                    label={spec.label}
                    name={`${unit.name} ${spec.label.toLowerCase()}`}
                    set={(value, gesture) => set(unit, spec.id, value, gesture)}
                  />
                ))}
              {unit.kind === "denoise" && (
                <Row label="Learnt from" help="A stretch of the take in which nothing but the room is heard">
                  <span className="num flex-1 truncate text-[11px]">{learntFrom(unit)}</span>
                  <Button
                    className="!h-6 px-1.5"
                    disabled={cursor === null}
                    hint="Learns the half second from where the wave was clicked last"
                    onClick={() => {
                      const from = (cursor ?? 0) / take.rate;
                      change("Learn the noise", (list) =>
                        list.map((u) =>
                          same(u, unit) ? { ...u, params: { ...u.params, learnFrom: from, learnTo: from + 0.5 } } : u,
                        ),
                      );
                    }}
                  >
                    Here
                  </Button>
                </Row>
              )}
            </div>
          );
        }}
      </SortableList>
      <Choice
        label="Add a treatment"
        value=""
        placeholder="add …"
        options={TREATMENTS.map((kind) => ({ id: kind, label: unitSpec(kind).label }))}
        onChange={(kind) => {
          const unit = newTreatment(kind as TreatmentKind);
          change(`Add ${labelOf(unit).toLowerCase()}`, (list) => [...list, unit]);
        }}
        className="mt-1.5 w-full"
      />
    </Section>
  );
}
