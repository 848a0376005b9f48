import { FileAudio, FileCode2, FileMusic, FolderOpen, Package } from "lucide-react";
import { useMemo, useRef } from "react";
import { useNavigate } from "react-router";
import { changeAbout, type Instrument } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { Station } from "../../shell/Station";
import { useCommands } from "../../state/commands";
import { openDropped } from "../../state/importing";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { checks } from "./checks";
import { bouncePhrase, exportPackage, exportPlayer, exportSfz } from "./exports";
import { HeardHere } from "./HeardHere";

/** Ship: say what it is, check it, hand it over. */
export function ShipStation() {
  const instrument = useInstrument((i) => i);
  const navigate = useNavigate();
  const { phrase } = useView();
  const picker = useRef<HTMLInputElement>(null);
  const found = checks(instrument);
  const blocked = found.some((c) => c.kind === "error");
  const why = blocked ? "no zone is mapped: it would be silent" : null;
  useCommands(
    "Ship",
    useMemo(
      () => [
        { id: "player", label: "Export the player", why: () => why, run: () => void exportPlayer(instrument) },
        { id: "package", label: "Export the package", why: () => why, run: () => void exportPackage(instrument) },
        { id: "sfz", label: "Export as SFZ", why: () => why, run: () => void exportSfz(instrument) },
        {
          id: "bounce",
          label: "Bounce the phrase",
          why: () => why,
          run: () => void bouncePhrase(instrument, phrase),
        },
        { id: "import", label: "Import a package or an SFZ file", run: () => picker.current?.click() },
      ],
      [instrument, phrase, why],
    ),
  );
  return (
    <Station
      title="Ship"
      facts={plural(instrument.samples.length, "sample")}
      actions={
        <>
          <input
            ref={picker}
            type="file"
            accept=".vise,.sfz,.zip"
            hidden
            data-testid="import-package"
            onChange={(event) => {
              void openDropped([...(event.target.files ?? [])], (to) => void navigate(to));
              event.target.value = "";
            }}
          />
          <Button
            hint="Opens a package or an SFZ file as an instrument of its own"
            onClick={() => picker.current?.click()}
          >
            <FolderOpen size={14} aria-hidden /> Import an instrument
          </Button>
        </>
      }
      inspector={
        <>
          <h2 className="mb-2 font-display font-semibold text-l">Check before leaving</h2>
          <ul className="space-y-1.5">
            {found.map((check) => (
              <li
                key={check.text}
                className={
                  check.kind === "good" ? "text-ink-soft" : check.kind === "error" ? "text-vermilion" : "text-ochre"
                }
              >
                <b>{{ good: "OK", warning: "Warning", error: "Blocker" }[check.kind]}</b> · {check.text}
              </li>
            ))}
          </ul>
          <HeardHere />
        </>
      }
    >
      <div className="grid min-h-0 flex-1 grid-cols-2 overflow-y-auto">
        <section className="border-rule border-r p-5">
          <h2 className="mb-3 font-display font-semibold text-xl">What it is</h2>
          <About instrument={instrument} />
        </section>
        <section className="p-5">
          <h2 className="mb-3 font-display font-semibold text-xl">Hand it over</h2>
          <Export
            icon={<FileCode2 size={22} aria-hidden />}
            title="The player"
            text="One HTML file that holds everything: its face, a keyboard, the sounds. Whoever opens it can play, from a disk or any web host, with nothing installed."
          >
            <Button
              look="primary"
              disabled={blocked}
              hint={why ?? "Writes one HTML file"}
              onClick={() => void exportPlayer(instrument)}
            >
              Export the player
            </Button>
          </Export>
          <Export
            icon={<Package size={22} aria-hidden />}
            title="The package"
            text="The instrument with every sample it uses and nothing else, to open in Vise, in the command line, or by your own programs: the format is open."
          >
            <Button
              disabled={blocked}
              hint={why ?? "Writes one .vise file"}
              onClick={() => void exportPackage(instrument)}
            >
              Export the package
            </Button>
          </Export>
          <Export
            icon={<FileMusic size={22} aria-hidden />}
            title="An SFZ file"
            text="The zones with their samples, envelopes, filters and what moves them, as plain text that many samplers read, in a zip. What has no counterpart there is listed."
          >
            <Button
              disabled={blocked}
              hint={why ?? "Writes one zip with an .sfz file and its samples"}
              onClick={() => void exportSfz(instrument)}
            >
              Export as SFZ
            </Button>
          </Export>
          <Export
            icon={<FileAudio size={22} aria-hidden />}
            title="The phrase as sound"
            text="The phrase in the bar above, played through the instrument into a 32-bit WAV file at 48 kHz."
          >
            <Button
              disabled={blocked}
              hint={why ?? "Writes one WAV file"}
              onClick={() => void bouncePhrase(instrument, phrase)}
            >
              Bounce the phrase
            </Button>
          </Export>
        </section>
      </div>
    </Station>
  );
}

function Export({
  icon,
  title,
  text,
  children,
}: {
  icon: React.ReactNode;
  title: string;
  text: string;
  children: React.ReactNode;
}) {
  return (
    <section className="border-rule border-t pt-3 pb-4">
      <div className="grid grid-cols-[34px_1fr] gap-x-2">
        {icon}
        <div>
          <h3 className="font-semibold text-l">{title}</h3>
          <p className="mt-0.5 mb-2.5 text-ink-soft">{text}</p>
          {children}
        </div>
      </div>
    </section>
  );
}

const FIELDS = [
  { id: "name", label: "Name", rows: 1, hint: "What people will call it" },
  { id: "maker", label: "Maker", rows: 1, hint: "Who made it" },
  { id: "licence", label: "Licence", rows: 1, hint: "What others may do with it, such as CC0-1.0" },
  { id: "description", label: "Description", rows: 6, hint: "What it is made of, and what it is good for" },
] as const;

function About({ instrument }: { instrument: Instrument }) {
  return FIELDS.map(({ id, label, rows, hint }) => {
    const shared = {
      id: `about-${id}`,
      value: instrument.about[id],
      placeholder: hint,
      onChange: (event: { target: { value: string } }) =>
        session.commit(changeAbout({ [id]: event.target.value }), `typing-${id}`),
      className:
        "mt-0.5 w-full rounded-[2px] border border-transparent bg-well px-2 py-1 placeholder:text-ink-faint hover:border-rule-strong",
    };
    return (
      <label key={id} htmlFor={`about-${id}`} className="mb-3 block">
        <span className="text-ink-soft text-s">{label}</span>
        {rows === 1 ? <input {...shared} maxLength={200} /> : <textarea {...shared} rows={rows} maxLength={20000} />}
      </label>
    );
  });
}
