import { ChevronLeft, ChevronRight } from "lucide-react";
import { memo, useMemo } from "react";
import { useStore } from "zustand";
import type { Instrument, SampledZone } from "../../../core/instrument";
import { type Command, useCommands } from "../../state/commands";
import { foundLoops, scoreOf } from "../../state/loops";
import { setView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";

/** The zone that is shown, and the ways to others: worst first, once loops were found for all. */
export const ZoneSteps = memo(function ZoneSteps({
  zone,
  order,
  samples,
}: {
  zone: SampledZone;
  order: readonly SampledZone[];
  samples: Instrument["samples"];
}) {
  const found = useStore(foundLoops, (s) => s.of);
  const { id } = zone;
  const commands = useMemo<readonly Command[]>(() => {
    const go = (by: number) => {
      const at = order.findIndex((z) => z.id === id);
      const next = order[(at + by + order.length) % order.length];
      if (next) setView({ zoneIds: new Set([next.id]) });
    };
    return [
      { id: "zone-before", label: "Zone before", chords: ["Alt+P"], run: () => go(-1) },
      { id: "next-zone", label: "Next zone, worst first", chords: ["Alt+N"], run: () => go(1) },
    ];
  }, [id, order]);
  useCommands("Zones one after the other", commands);
  const options = useMemo(() => {
    const names = new Map(samples.map((s) => [s.sha, s.name]));
    return order.map((z) => {
      const score = scoreOf(z, found);
      const name = names.get(z.sample) ?? z.id;
      return { id: z.id, label: score === null ? name : `${name} · ${score < 0 ? "no loop" : score}` };
    });
  }, [order, samples, found]);
  const [before, next] = commands;
  return (
    <>
      <Button aria-label="Zone before" onClick={before?.run}>
        <ChevronLeft size={14} aria-hidden />
      </Button>
      <Choice
        label="Zone"
        value={id}
        options={options}
        onChange={(chosen) => setView({ zoneIds: new Set([chosen]) })}
        className="w-[150px]"
      />
      <Button aria-label="Next zone" onClick={next?.run}>
        <ChevronRight size={14} aria-hidden />
      </Button>
    </>
  );
});
