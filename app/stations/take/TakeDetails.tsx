import { useQuery } from "@tanstack/react-query";
import { Trash2 } from "lucide-react";
import { changeTake, type Take } from "../../../core/instrument";
import { formatNumber, grouped, plural } from "../../../core/params";
import { dropTake } from "../../state/files";
import { tell } from "../../state/notices";
import { gapNote } from "../../state/recording";
import { session } from "../../state/session";
import { askToKeep, bytesText, measureSpace } from "../../state/storage-space";
import { Button } from "../../widgets/Button";
import { dateText } from "../../widgets/date-text";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";

/** Where a take comes from, in words. */
export const ORIGINS = { imported: "imported", recorded: "recorded here", demo: "demo" } as const;

/** What is known of a take, and what its owner notes. */
export function TakeDetails({ take }: { take: Take }) {
  const space = useQuery({ queryKey: ["space", take.sha], queryFn: measureSpace });
  const rename = (name: string) => {
    if (name.trim() === "") return false;
    session.commit(changeTake(take.id, "Rename take", { name: name.trim() }));
    return true;
  };
  const fact = (label: string, text: string, title?: string) => (
    <Row label={label}>
      <span className="num truncate" title={title ?? text}>
        {text}
      </span>
    </Row>
  );
  return (
    <>
      <h2 className="mb-2 truncate font-display font-semibold text-l">{take.name}</h2>
      <Section title="Recording">
        <Row label="Name">
          <Well label="Name of the take" text={take.name} onType={rename} width={138} />
        </Row>
        {fact("Date", dateText(take.date))}
        {fact("Source", take.source || ORIGINS[take.origin])}
        {fact("Length", formatNumber("seconds", take.frames / take.rate), `${grouped(take.frames)} frames`)}
        {fact("Format", `${formatNumber("hertz", take.rate)} ${take.channels === 1 ? "mono" : "stereo"}`)}
        {fact("Noise floor", take.floor === null ? "not measured" : formatNumber("decibels", take.floor))}
        {take.clips.length > 0 && (
          <Row label="Clipped" help="Runs of samples at full scale, marked red on the wave">
            <span className="num text-vermilion">{plural(take.clips.length, "place")}</span>
          </Row>
        )}
        {take.gaps.length > 0 && (
          <Row label="Sound lost" help={`${gapNote(take)} Dashed on the wave`}>
            <span className="num text-vermilion">{plural(take.gaps.length, "gap")}</span>
          </Row>
        )}
        {take.markers.length > 0 && fact("Markers", String(take.markers.length))}
      </Section>
      <Section title="Notes">
        <textarea
          aria-label="Notes on the take"
          defaultValue={take.notes}
          rows={3}
          placeholder="microphone, place, who played …"
          onKeyDown={(event) => event.stopPropagation()}
          onBlur={(event) => {
            const notes = event.target.value.slice(0, 20000);
            if (notes !== take.notes) session.commit(changeTake(take.id, "Change the notes", { notes }));
          }}
          className="w-full resize-y rounded-[2px] bg-well px-1.5 py-1"
        />
      </Section>
      <Section title="Storage">
        <p className="text-ink-soft">
          {space.data
            ? `${bytesText(space.data.used)} used in this browser, ${bytesText(space.data.left)} left. ${space.data.kept ? "It is kept until you clear it." : "The browser may clear it when the disk is full."}`
            : "The browser doesn't say how much room there is."}
        </p>
        {space.data && !space.data.kept && (
          <Button
            className="mt-1.5"
            hint="Asks the browser not to clear what is stored by itself"
            onClick={() =>
              void askToKeep().then((kept) => {
                if (!kept) tell("warning", "The browser did not promise it; export what you can't lose.");
                void space.refetch();
              })
            }
          >
            Ask to keep it
          </Button>
        )}
      </Section>
      <Button onClick={() => dropTake(take.id, take.name)}>
        <Trash2 size={13} aria-hidden /> Remove take
      </Button>
    </>
  );
}
