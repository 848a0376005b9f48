import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef, useState } from "react";
import { nameOfNote } from "../../../../core/audio";
import { ROLES } from "../../../../core/mapping";
import { formatNumber, grouped } from "../../../../core/params";
import { audition } from "../../../state/audio-queries";
import type { Proposal } from "../../../state/proposal";
import { proposing } from "../../../state/proposing";
import { Button } from "../../../widgets/Button";
import { cx } from "../../../widgets/class-names";
import { NamePieces } from "./NamePieces";
import { PatternRow } from "./PatternRow";
import { ROLE_LOOKS } from "./role-looks";

/** Height of a line, in pixels. */
const LINE = 25;

/** How the names of what is to be placed are read, beside what is heard; each piece can be taken for something else. */
export function NamesRead({ proposal }: { proposal: Proposal }) {
  const { samples, sounds, readings, shown, evidence, heard } = proposal;
  const [open, setOpen] = useState<{ name: number; piece: number } | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  // Of hundreds of names those are made that are in sight.
  const virtual = useVirtualizer({
    count: samples.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => LINE,
    overscan: 6,
  });
  const lines = virtual.getVirtualItems();
  // What is doubted comes first.
  const isDoubted = (i: number) => !heard.has(samples[i]?.sha ?? "") && (evidence.weighed[i]?.doubt ?? "") !== "";
  const order = samples.map((_, i) => i).sort((a, b) => Number(isDoubted(b)) - Number(isDoubted(a)));
  const reading = readings[shown];
  const next = shown + 1 >= readings.length ? -1 : shown + 1;
  const agreement =
    reading?.agreement == null ? "" : `${Math.round(reading.agreement * 100)} % of it agrees with the sound`;
  return (
    <section aria-label="How the names are read" className="flex min-h-0 min-w-0 flex-1 flex-col px-3.5 pt-2.5">
      <div className="flex flex-wrap items-baseline gap-x-2 gap-y-1 pb-1.5">
        <h2 className="font-display font-semibold">
          {samples.length === 1 ? "How the name is read" : `How ${grouped(samples.length)} names are read`}
        </h2>
        <span className="text-ink-soft text-s">
          {reading
            ? [`reading ${shown + 1} of ${readings.length}`, agreement].filter((t) => t !== "").join(" · ")
            : "names say nothing: by the sound alone"}
        </span>
        <span className="flex-1" />
        {(readings.length > 1 || shown === -1) && readings.length > 0 && (
          <Button
            look="quiet"
            hint="Shows what comes of it when the names are read in another way"
            onClick={() => void proposing.read(next === -1 && shown === -1 ? 0 : next)}
          >
            {next === -1 && shown !== -1 ? "By sound alone" : "Next reading"}
          </Button>
        )}
      </div>
      <PatternRow pattern={evidence.pattern} />
      {reading && <Legend proposal={proposal} />}
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto">
        <table aria-rowcount={samples.length + 1} className="w-full border-collapse text-s">
          <thead>
            <tr className="text-left text-ink-soft">
              <th className="sticky top-0 bg-sheet py-0.5 pr-2 font-normal">name: click a piece to say what it is</th>
              <th className="sticky top-0 bg-sheet px-2 text-right font-normal">taken as</th>
              <th className="sticky top-0 bg-sheet px-2 text-right font-normal">sounds like</th>
              <th className="sticky top-0 bg-sheet pl-2 text-right font-normal">peak</th>
            </tr>
          </thead>
          <tbody>
            <Room height={lines[0]?.start ?? 0} />
            {lines.map(({ index }) => {
              const i = order[index] as number;
              const sample = samples[i];
              if (!sample) return null;
              const says = evidence.weighed[i];
              const note = heard.has(sample.sha) && says?.heard != null ? Math.round(says.heard) : (says?.note ?? null);
              const doubted = isDoubted(i);
              return (
                <tr
                  key={sample.sha}
                  aria-rowindex={index + 2}
                  style={{ height: LINE }}
                  className={cx("border-rule border-b", doubted && "bg-tint-ochre")}
                  title={doubted ? says?.doubt : undefined}
                >
                  <td className="max-w-0 truncate py-0.5 pr-2">
                    <NamePieces
                      path={sounds[i]?.path ?? sample.name}
                      pieces={evidence.pieces[i] ?? []}
                      index={i}
                      open={open?.name === i ? open.piece : -1}
                      onOpen={(piece) => setOpen(piece < 0 ? null : { name: i, piece })}
                    />
                  </td>
                  <td className="num w-[76px] whitespace-nowrap px-2 text-right">
                    {note === null ? "no note" : `${nameOfNote(note)} · ${note}`}
                  </td>
                  <td className="num w-[96px] whitespace-nowrap px-2 text-right">
                    <button
                      type="button"
                      className="h-6 w-full text-right hover:text-cobalt"
                      aria-label={`${heardText(says?.heard ?? null)}: hear ${sample.name}`}
                      onClick={() => void audition(sample.sha, 0, sample.frames)}
                    >
                      {heardText(says?.heard ?? null)}
                    </button>
                  </td>
                  <td className="num w-[64px] whitespace-nowrap pl-2 text-right">
                    {formatNumber("decibels", sample.peak)}
                  </td>
                </tr>
              );
            })}
            <Room height={virtual.getTotalSize() - (lines.at(-1)?.end ?? 0)} />
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** The room of lines that are out of sight. */
const Room = ({ height }: { height: number }) =>
  height > 0 && (
    <tr aria-hidden>
      <td colSpan={4} style={{ height, padding: 0 }} />
    </tr>
  );

/** Which pieces say what: a word on the line with which they are marked. */
function Legend({ proposal }: { proposal: Proposal }) {
  const roles = ROLES.filter((role) => proposal.readings[proposal.shown]?.columns[role]);
  return (
    <p className="flex flex-wrap gap-x-4 pb-1 text-s">
      {roles.map((role) => (
        <span key={role} className={ROLE_LOOKS[role].line}>
          {ROLE_LOOKS[role].label}
        </span>
      ))}
      <span className="text-ink-faint">the rest means nothing</span>
    </p>
  );
}

function heardText(heard: number | null): string {
  if (heard === null) return "no clear pitch";
  const note = Math.round(heard);
  const cents = Math.round((heard - note) * 100);
  return `${nameOfNote(note)} ${cents < 0 ? "−" : "+"}${Math.abs(cents)} ct`;
}
