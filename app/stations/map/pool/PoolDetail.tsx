import { nameOfNote } from "../../../../core/audio";
import { listZones, type Sample, type Zone } from "../../../../core/instrument";
import { formatNumber, plural } from "../../../../core/params";
import { useInstrument } from "../../../state/use-session";

/** Zones that are named one by one. */
const NAMED = 3;

const keysOf = ({ keyLow, keyHigh, velLow, velHigh }: Zone): string =>
  `${keyLow === keyHigh ? nameOfNote(keyLow) : `${nameOfNote(keyLow)}–${nameOfNote(keyHigh)}`} at ${velLow}–${velHigh}`;

/** What is known of the sample that is chosen: level, pitch, form, where it is used, what its file says. */
export function PoolDetail({ sample }: { sample: Sample }) {
  const zones = useInstrument(listZones).filter((z) => z.sample === sample.sha);
  const { pitch, file } = sample;
  const cents = pitch === null ? 0 : (pitch - Math.round(pitch)) * 100;
  const said = [
    file?.root == null ? "" : `root ${nameOfNote(Math.round(file.root))}`,
    file?.loop ? `a loop of ${formatNumber("seconds", (file.loop.end - file.loop.start) / sample.rate)}` : "",
    file?.range
      ? `keys ${nameOfNote(file.range.keyLow)}–${nameOfNote(file.range.keyHigh)}, velocity ${file.range.velLow}–${file.range.velHigh}`
      : "",
  ].filter((t) => t !== "");
  const rows: [string, string][] = [
    ["Level", `peak ${formatNumber("decibels", sample.peak)}, loudness ${formatNumber("decibels", sample.loudness)}`],
    [
      "Pitch",
      pitch === null
        ? "none found"
        : `${nameOfNote(Math.round(pitch))} · ${Math.round(pitch)}, ${formatNumber("cents", cents)}`,
    ],
    [
      "Form",
      `${sample.channels === 1 ? "mono" : "stereo"}, ${formatNumber("hertz", sample.rate)}, ${plural(sample.frames, "frame")}`,
    ],
    [
      "Used",
      zones.length === 0
        ? "nowhere yet"
        : `${zones.slice(0, NAMED).map(keysOf).join("; ")}${zones.length > NAMED ? ` and ${zones.length - NAMED} more` : ""}`,
    ],
    ...(said.length > 0 ? [["File says", said.join("; ")] as [string, string]] : []),
    ...(file?.text ? [["Notes", file.text] as [string, string]] : []),
    ...(file ? [["From", file.path] as [string, string]] : []),
  ];
  return (
    <dl
      className="grid max-h-44 grid-cols-[58px_minmax(0,1fr)] gap-x-2 overflow-y-auto border-rule border-t px-3 py-1.5 text-s"
      data-testid="pool-detail"
    >
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-ink-soft">{name}</dt>
          <dd className="num break-words text-[11.5px]">{value}</dd>
        </div>
      ))}
    </dl>
  );
}
