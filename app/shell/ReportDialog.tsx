import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { plural } from "../../core/params";
import { chooseNone, type OpeningReport, showReport, useOpeningReport } from "../state/opening-report";
import { findMissing } from "../state/relinking";
import { Button } from "../widgets/Button";

/** Lines of each list that are shown. */
const MOST_LISTED = 200;

interface FrameProps {
  readonly title: string;
  readonly text: string;
  readonly close: () => void;
  readonly children: ReactNode;
}

function Panel({ title, text, close, children }: FrameProps) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ground opacity-60" />
        <Dialog.Content className="fixed top-[10vh] left-1/2 z-50 flex max-h-[80vh] w-[620px] max-w-[94vw] -translate-x-1/2 flex-col rounded-m border border-ink bg-sheet p-5">
          <Dialog.Title className="line-clamp-2 shrink-0 break-all font-display font-semibold text-l">
            {title}
          </Dialog.Title>
          <Dialog.Description className="mt-1 mb-3 text-ink-soft">{text}</Dialog.Description>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const close = () => showReport(null);

/** What came of a file in an open format: what has no counterpart, what was odd, and which samples weren't there. */
function ReportDialog() {
  const report = useOpeningReport((r) => r.report);
  if (!report) return null;
  const { title, text, missing } = report;
  return (
    <Panel title={title} text={text} close={close}>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keys */}
      <div tabIndex={0} className="min-h-0 flex-1 overflow-y-auto border-rule border-y">
        <Lists report={report} />
      </div>
      <div className="mt-3 flex justify-end gap-2">
        {missing.length > 0 && (
          <Button
            look="primary"
            hint="Looks for them by content, name and length"
            onClick={() => {
              close();
              void findMissing();
            }}
          >
            Find samples in a folder …
          </Button>
        )}
        <Button onClick={close}>Close</Button>
      </div>
    </Panel>
  );
}

function Lists({ report: { lost, problems, missing } }: { report: OpeningReport }) {
  return (
    <>
      <List title={`${plural(missing.length, "sample")} not there: silent until found`} of={missing} />
      <List title="What was odd, or could not be carried over" of={problems} />
      {lost.length > 0 && (
        <section className="py-2">
          <h3 className="font-semibold">Settings without a counterpart, kept with their zones</h3>
          <table className="mt-1 w-full text-s">
            <thead className="text-left text-ink-soft">
              <tr>
                <th className="font-normal">setting</th>
                <th className="pr-3 text-right font-normal">times</th>
                <th className="font-normal">first in</th>
                <th className="font-normal">why</th>
              </tr>
            </thead>
            <tbody>
              {lost.slice(0, MOST_LISTED).map((l) => (
                <tr key={`${l.opcode} ${l.why}`} className="align-top">
                  <td className="num max-w-[180px] break-all pr-3">{l.opcode}</td>
                  <td className="num pr-3 text-right">{l.count}</td>
                  <td className="max-w-[150px] break-all pr-3">
                    {l.file.slice(l.file.lastIndexOf("/") + 1)}, line {l.line}
                  </td>
                  <td>{l.why}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <More of={lost} />
        </section>
      )}
    </>
  );
}

function List({ title, of }: { title: string; of: readonly string[] }) {
  if (of.length === 0) return null;
  return (
    <section className="border-rule border-b py-2 last:border-0">
      <h3 className="font-semibold">{title}</h3>
      <ul className="mt-1 text-s">
        {of.slice(0, MOST_LISTED).map((line) => (
          <li key={line} className="break-words">
            {line}
          </li>
        ))}
      </ul>
      <More of={of} />
    </section>
  );
}

const More = ({ of }: { of: readonly unknown[] }) =>
  of.length > MOST_LISTED && <p className="text-ink-soft text-s">and {of.length - MOST_LISTED} more</p>;

/** Asks which of several instruments in a folder is to be opened. */
function ChoiceDialog() {
  const choice = useOpeningReport((r) => r.choice);
  if (!choice) return null;
  return (
    <Panel
      title={`${choice.names.length} instruments are in there`}
      text="Which one is to be opened? The others can be opened the same way."
      close={chooseNone}
    >
      <ul className="min-h-0 flex-1 overflow-y-auto border-rule border-y">
        {choice.names.map((name, at) => (
          <li key={name}>
            <Button look="quiet" className="w-full justify-start! break-all" onClick={() => choice.choose(at)}>
              {name}
            </Button>
          </li>
        ))}
      </ul>
    </Panel>
  );
}

/** What opening a file came to, and which of several is to be opened. */
export function Reports() {
  return (
    <>
      <ReportDialog />
      <ChoiceDialog />
    </>
  );
}
