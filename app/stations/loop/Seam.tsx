import { Play, Square } from "lucide-react";
import { memo, type RefObject, useCallback, useLayoutEffect, useMemo, useRef } from "react";
import { decibelsOf } from "../../../core/audio";
import { firstEnd, LoopGain, likenessOf, loopedSample, periodOf } from "../../../core/dsp";
import { type Loop, loopMirrored } from "../../../core/instrument";
import { colourBetween, unrolled } from "../../../core/looping";
import { formatNumber } from "../../../core/params";
import { hearMade, hush, useAudition, useLevelTrack } from "../../state/audio-queries";
import { Button } from "../../widgets/Button";
import { type Draw, Drawing } from "../../widgets/Drawing";
import { useCalm } from "../../widgets/use-calm";
import { useSoon } from "../../widgets/use-soon";
import { levelCourse } from "./level-course";

const AROUND = 160;
/** Seconds of the playback of which the level is drawn, and the lowest that is. */
const SECONDS = 12;
const DEPTH = 30;

/** Milliseconds between two measurements of colours, and two looks at seam and level, while a flag is dragged: seldom in the same frame. */
const CALM = 120;
const SEAM = 50;
const LEVEL = 150;

/** Seconds on either side of a seam that is heard by itself, how often it is, and the fade at the ends. */
const BESIDE = 0.4;
const TIMES = 3;
const FADE = 0.02;

/** What is around a loop's seam as it will sound, a few times over, with a short fade each time. */
function aroundSeam(samples: Float32Array, loop: Loop, rate: number, alike: number): Float32Array {
  const half = Math.round(BESIDE * rate);
  const once = unrolled(samples, loop, alike, Math.max(0, firstEnd(loop) - half), 2 * half);
  const fade = Math.round(FADE * rate);
  const out = new Float32Array(TIMES * once.length);
  for (let i = 0; i < out.length; i++) {
    const at = i % once.length;
    out[i] = (once[at] as number) * Math.min(1, at / fade, (once.length - 1 - at) / fade);
  }
  return out;
}

/** Seconds for which a loop is heard in the background. */
const LONG = 60;

/** The loop as it goes round for a minute, from just before its end on, faded in and out. */
function aMinute(samples: Float32Array, loop: Loop, rate: number, alike: number): Float32Array {
  const from = Math.max(0, firstEnd(loop) - loop.fade - Math.round(rate));
  const out = unrolled(samples, loop, alike, from, LONG * rate);
  const fade = Math.round(FADE * rate);
  for (let i = 0; i < fade; i++) {
    out[i] = ((out[i] as number) * i) / fade;
    out[out.length - 1 - i] = ((out[out.length - 1 - i] as number) * i) / fade;
  }
  return out;
}

/** Makes something of each channel of a sound that is looped; both cross as the first is like itself, as they do when they are played. */
function hearLooped(
  sha: string,
  loop: Loop,
  mirrored: boolean,
  make: (samples: Float32Array, alike: number) => Float32Array,
  name = "",
): void {
  const turned = (channel: Float32Array) => (mirrored ? channel.slice().reverse() : channel);
  void hearMade(sha, (channel, [first = channel]) => make(turned(channel), likenessOf(turned(first), loop)), name);
}

interface SeamProps {
  readonly sha: string;
  readonly samples: Float32Array;
  readonly rate: number;
  readonly start: number;
  readonly loop: Loop;
  /** Whether the samples stand in the other order than in their file. */
  readonly mirrored?: boolean;
}

const Figure = ({ name, text, title }: { name: string; text: string; title: string }) => (
  <span className="whitespace-nowrap" title={title}>
    {name} <span className="num">{text}</span>
  </span>
);

/** The seam magnified and the loop unrolled, side by side, with their figures; they stay while handles move. */
export function SeamAndLevel({
  reverse,
  end,
  ...file
}: SeamProps & { readonly reverse: boolean; readonly end: number }) {
  const { samples, loop, start } = file;
  // A reversed zone is the mirrored sound, loop and all.
  const mirrored = useMemo(() => (reverse ? samples.slice().reverse() : samples), [reverse, samples]);
  const mine = useMemo(() => (reverse ? loopMirrored(loop, samples.length) : loop), [reverse, loop, samples]);
  const given = {
    ...file,
    samples: mirrored,
    loop: mine,
    start: reverse ? samples.length - end : start,
    mirrored: reverse,
  };
  return <BothPanels {...given} />;
}

/** Both panels, behind the wave: it is what one waits for. */
function BothPanels(given: SeamProps) {
  const soon = useSoon();
  return (
    <div className="grid h-[clamp(112px,20vh,160px)] shrink-0 grid-cols-2 gap-px border-rule border-t bg-rule">
      {soon ? (
        <>
          <Seam {...given} />
          <LevelOverTime {...given} />
        </>
      ) : (
        <>
          <div className="bg-sheet" />
          <div className="bg-sheet" />
        </>
      )}
    </div>
  );
}

/** The end laid over the start at the joint: what is heard in ink, what the start comes from dashed. */
function Seam(given: SeamProps) {
  const { samples, rate } = given;
  const latest = useLatest(given);
  const loop = useCalm(given.loop, SEAM);
  const calm = useCalm(loop, CALM);
  // It transforms: what is drawn comes first.
  const soon = useSoon();
  const colour = useMemo(() => {
    if (calm.mode === "alternating") return 0;
    return soon ? colourBetween([samples], rate, calm.start, calm.end) : null;
  }, [samples, rate, calm, soon]);
  const { heard, before, behind, step, slope, alike } = useMemo(() => {
    const alikeness = likenessOf(samples, loop);
    const gain = LoopGain.of(loop);
    const turn = firstEnd(loop);
    const around = Float32Array.from({ length: 2 * AROUND }, (_, i) =>
      loopedSample(samples, loop, alikeness, Math.max(0, turn - AROUND + i), gain),
    );
    const from = loop.mode === "forward" ? loop.start : turn;
    const level = (frame: number) => (gain ? gain.crossing(frame) : 1) * (samples[frame] ?? 0);
    const at = (i: number) => around[i] ?? 0;
    return {
      heard: around,
      before: Float32Array.from({ length: AROUND }, (_, i) => level(from - AROUND + i)),
      behind: Float32Array.from({ length: AROUND }, (_, i) => level(turn + i)),
      alike: alikeness,
      // Against what the slopes on either side would have it be.
      step: Math.abs(at(AROUND) - at(AROUND - 1) - (at(AROUND - 1) - at(AROUND - 2) + at(AROUND + 1) - at(AROUND)) / 2),
      slope: Math.abs(at(AROUND + 1) - at(AROUND) - (at(AROUND - 1) - at(AROUND - 2))),
    };
  }, [samples, loop]);
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      const peak = heard.reduce((m, x) => Math.max(m, Math.abs(x)), 1e-5);
      const line = (values: Float32Array, from = 0) => {
        pen.beginPath();
        values.forEach((x, i) => {
          pen.lineTo(((from + i) / (2 * AROUND - 1)) * width, height / 2 - (x / peak) * (height / 2 - 4));
        });
        pen.stroke();
      };
      pen.strokeStyle = colours["rule-strong"];
      pen.beginPath();
      pen.moveTo(width / 2, 0);
      pen.lineTo(width / 2, height);
      pen.stroke();
      pen.strokeStyle = colours.cobalt;
      pen.setLineDash([4, 3]);
      line(before);
      pen.strokeStyle = colours["ink-faint"];
      line(behind, AROUND);
      pen.setLineDash([]);
      pen.strokeStyle = colours.ink;
      pen.lineWidth = 1.5;
      line(heard);
    },
    [heard, before, behind],
  );
  const below = (x: number) => (x < 1e-6 ? "none" : formatNumber("decibels", decibelsOf(x)));
  return (
    <section aria-label="Seam" className="flex min-w-0 flex-col bg-sheet px-3.5 py-1.5">
      <h3 className="flex h-6 items-center justify-between gap-2">
        <span className="font-display font-semibold">Seam</span>
        <span className="min-w-0 flex-1 truncate text-right text-ink-soft text-s">
          dashed: before the start, behind the end · {formatNumber("seconds", (2 * AROUND) / rate)}
        </span>
        <HearButton latest={latest} />
      </h3>
      <Drawing draw={draw} label="The sound around the seam" className="my-1 min-h-0 w-full flex-1" />
      <p className="flex justify-between gap-2 overflow-hidden text-s">
        <Figure name="step" text={below(step)} title="How far the sound jumps at the joint, beyond its own slope" />
        <Figure name="slope" text={below(slope)} title="How much the slope changes there, from sample to sample" />
        <Figure
          name="colour"
          text={colour === null ? "– dB" : `${colour.toFixed(1)} dB`}
          title="How unlike the spectra at start and end are: mean difference of the bands' levels, whatever their loudness"
        />
        <Figure
          name="likeness"
          text={loop.fade === 0 ? "no crossfade" : `${Math.round(alike * 100)} %`}
          title="How alike the two sounds are that cross: alike ones fade by equal gain, unlike ones by equal power"
        />
      </p>
    </section>
  );
}

/** What a panel shows by now, for buttons that aren't drawn anew at every move of a flag. */
function useLatest(given: SeamProps): Readonly<RefObject<SeamProps>> {
  const latest = useRef(given);
  useLayoutEffect(() => {
    latest.current = given;
  });
  return latest;
}

const HearButton = memo(function HearButton({ latest }: { latest: Readonly<RefObject<SeamProps>> }) {
  const hear = () => {
    const { sha, loop, rate, mirrored = false } = latest.current;
    hearLooped(sha, loop, mirrored, (x, alike) => aroundSeam(x, loop, rate, alike));
  };
  return (
    <Button
      look="quiet"
      className="h-5 px-1.5"
      hint="Plays what is around the seam by itself, as it will sound, a few times"
      onClick={hear}
    >
      <Play size={12} aria-hidden /> Hear it
    </Button>
  );
});

/** Plays the loop for a minute while one goes on with something else; again ends it. */
const MinuteButton = memo(function MinuteButton({ latest }: { latest: Readonly<RefObject<SeamProps>> }) {
  const playing = useAudition((s) => s.playing?.sha === MINUTE);
  const hear = () => {
    const { sha, loop, rate, mirrored = false } = latest.current;
    hearLooped(sha, loop, mirrored, (x, alike) => aMinute(x, loop, rate, alike), MINUTE);
  };
  return (
    <Button
      look="quiet"
      className="h-5 px-1.5"
      pressed={playing}
      hint="Plays the loop for a minute, whatever else you do meanwhile; a second press ends it"
      onClick={() => (playing ? hush() : hear())}
    >
      {playing ? <Square size={11} aria-hidden /> : <Play size={12} aria-hidden />} A minute
    </Button>
  );
});

/** What is heard then, by name. */
const MINUTE = "a loop for a minute";

/** While the levels are being measured. */
const NOTHING = new Float64Array(0);

/** The level as it will sound for some seconds: a pulse is seen. */
function LevelOverTime(given: SeamProps) {
  const { sha, samples, rate, start, mirrored = false } = given;
  const latest = useLatest(given);
  const loop = useCalm(given.loop, LEVEL);
  const measured = useLevelTrack(sha).data;
  const track = useMemo(() => (mirrored ? measured?.slice().reverse() : measured), [measured, mirrored]);
  const { levels, pulse } = useMemo(
    () => levelCourse(track ?? NOTHING, samples, rate, start, loop, SECONDS, 600),
    [track, samples, rate, start, loop],
  );
  const length = periodOf(loop) / rate;
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      pen.font = '10.5px "Spline Sans Mono Variable", monospace';
      const y = (level: number) => 4 + (Math.min(DEPTH, -level) / DEPTH) * (height - 8);
      for (const level of [0, -10, -20]) {
        pen.strokeStyle = colours.rule;
        pen.beginPath();
        pen.moveTo(0, y(level));
        pen.lineTo(width, y(level));
        pen.stroke();
        pen.fillStyle = colours["ink-faint"];
        pen.fillText(`${level} dB`, 4, y(level) + 11);
      }
      pen.strokeStyle = colours.ink;
      pen.lineWidth = 1.5;
      pen.beginPath();
      levels.forEach((level, i) => {
        pen.lineTo((i / (levels.length - 1)) * width, y(level));
      });
      pen.stroke();
      // Where it goes round, as long as that can be told apart.
      if ((length / SECONDS) * width < 5) return;
      pen.fillStyle = colours.ink;
      for (let t = (loop.end - start) / rate; t < SECONDS; t += length)
        pen.fillRect((t / SECONDS) * width, height - 6, 1.5, 6);
    },
    [levels, length, loop.end, start, rate],
  );
  const word = !track ? "measuring …" : pulse < 1 ? "hardly heard" : pulse < 4 ? "a gentle pulse" : "a strong pulse";
  return (
    <section aria-label="Level over time" className="flex min-w-0 flex-col bg-sheet px-3.5 py-1.5">
      <h3 className="flex h-6 items-center justify-between gap-2">
        <span className="font-display font-semibold">Level over time</span>
        <span className="min-w-0 flex-1 truncate text-right text-ink-soft text-s">
          level over {SECONDS} s as it will sound
        </span>
        <MinuteButton latest={latest} />
      </h3>
      <Drawing draw={draw} label="The level as the loop goes round" className="my-1 min-h-0 w-full flex-1" />
      <p className="flex justify-between gap-2 overflow-hidden text-s">
        <Figure
          name="pulse"
          text={track ? formatNumber("decibels", pulse) : "…"}
          title="How far the level moves while it goes round"
        />
        <Figure name="every" text={formatNumber("seconds", length)} title="How long one round takes" />
        <span className={!track ? "text-ink-soft" : pulse < 1 ? "text-leaf" : pulse < 4 ? "" : "text-ochre"}>
          {word}
        </span>
      </p>
    </section>
  );
}
