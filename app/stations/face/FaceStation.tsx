import { Plus } from "lucide-react";
import { useCallback, useDeferredValue, useMemo, useState } from "react";
import { checkFace, faceKinds, withScreen } from "../../../core/face";
import { addFacePage, changeFace, removeFacePage, type Screen, setParams } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { type Change, FaceContext } from "../../face/face-world";
import { Empty, Station } from "../../shell/Station";
import { type Command, useCommands } from "../../state/commands";
import { freeName } from "../../state/copy-name";
import { engine } from "../../state/engine";
import { addKind } from "../../state/face-adding";
import { commitFace, useShown } from "../../state/face-selection";
import { freshId } from "../../state/ids";
import { session } from "../../state/session";
import { INSTRUMENT_SHOWN, useInstrument } from "../../state/use-session";
import { setView, useView, type View } from "../../state/view";
import { WithPinned } from "../../units/WithPinned";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { MenuButton, WordMenu } from "../../widgets/CommandMenu";
import { cx } from "../../widgets/class-names";
import { TabPanel, TabRow, Tabs } from "../../widgets/Tabs";
import { Toggle } from "../../widgets/Toggle";
import { CheckPanel } from "./CheckPanel";
import { FaceCanvas } from "./FaceCanvas";
import { ARRANGE_COMMANDS, FACE_COMMANDS, PLAN_COMMANDS } from "./face-commands";
import { HeardList } from "./HeardList";
import { ItemPanel } from "./ItemPanel";
import { LookPanel } from "./LookPanel";
import { OutlinePanel } from "./OutlinePanel";
import { TryPage } from "./TryPage";

const CONTROL_COMMANDS: readonly Command[] = faceKinds().map(({ kind, label }) => ({
  id: `add-${kind}`,
  label,
  run: () => addKind(kind),
}));
const COMMANDS: readonly Command[] = [
  ...FACE_COMMANDS,
  ...ARRANGE_COMMANDS,
  ...CONTROL_COMMANDS.map((c) => ({ ...c, label: `Add: ${c.label.toLowerCase()}` })),
];
const NO_COMMANDS: readonly Command[] = [];
const ZOOMS = [
  { id: "0", label: "Fit" },
  { id: "0.5", label: "50 %" },
  { id: "1", label: "100 %" },
  { id: "2", label: "200 %" },
] as const;

/** Face: what whoever plays the instrument sees and touches. */
export function FaceStation() {
  const instrument = useShown(useInstrument((i) => i));
  const { face } = instrument;
  const [tried, setTried] = useState<HTMLElement | null>(null);
  const [trying, setTrying] = useState(false);
  const [zoom, setZoom] = useState("0");
  // Whoever tries it removes nothing by a key.
  useCommands("Face", trying ? NO_COMMANDS : COMMANDS);
  const side = useView((v) => v.faceSide);
  const wanted = useView((v) => v.facePage);
  const page = (face.pages.find((p) => p.id === wanted) ?? face.pages[0])?.id ?? null;
  // While something is dragged the check may come a little later.
  const judged = useDeferredValue(instrument);
  const doubts = useMemo(() => checkFace(judged, () => freshId()), [judged]);
  const setAll = useCallback((changes: readonly Change[], gesture: string, what: string) => {
    const now = session.instrument;
    if (now) session.commit(setParams(now, changes, what), gesture);
  }, []);
  const world = useMemo(
    () => ({
      instruments: INSTRUMENT_SHOWN,
      live: trying,
      setAll,
      page,
      goTo: (id: string) => setView({ facePage: id }),
      host: engine,
    }),
    [trying, setAll, page],
  );
  return (
    <FaceContext.Provider value={world}>
      <Tabs shown={side} onShow={(faceSide: View["faceSide"]) => setView({ faceSide })}>
        <Station
          title="Face"
          facts={`${face.width} × ${face.height} px · ${plural(face.items.length, "item")}${face.pages.length > 1 ? ` · ${plural(face.pages.length, "page")}` : ""}`}
          actions={
            <>
              {!trying && (
                <>
                  <WordMenu word="+ Control" commands={CONTROL_COMMANDS} />
                  <WordMenu word="Arrange" commands={ARRANGE_COMMANDS} />
                  <WordMenu word="Make a face" commands={PLAN_COMMANDS} />
                </>
              )}
              <Toggle label="Try it" on={trying} onChange={setTrying} />
            </>
          }
          inspector={
            trying ? (
              <TryHelp page={tried} />
            ) : (
              <>
                <TabRow
                  label="Show beside the page"
                  className="-mx-4 mb-3 border-rule border-b px-1"
                  tabs={[
                    { id: "item", label: "Item" },
                    { id: "outline", label: "Outline" },
                    { id: "look", label: "Look" },
                    { id: "check", label: "Check", count: doubts.length > 0 ? String(doubts.length) : null },
                  ]}
                />
                <TabPanel id="item">
                  <ItemPanel instrument={instrument} />
                </TabPanel>
                <TabPanel id="outline">
                  <OutlinePanel instrument={instrument} page={page} />
                </TabPanel>
                <TabPanel id="look">
                  <LookPanel instrument={instrument} page={page} />
                </TabPanel>
                <TabPanel id="check">
                  <CheckPanel doubts={doubts} empty={face.items.length === 0} />
                </TabPanel>
              </>
            )
          }
        >
          <WithPinned id="face">
            <div className="flex h-8 shrink-0 items-center gap-1 border-rule border-b px-3">
              <Pages page={page} trying={trying} />
              <span className="flex-1" />
              <Screens />
              {!trying && (
                <Choice label="Size of the page" value={zoom} options={ZOOMS} onChange={setZoom} className="w-24" />
              )}
            </div>
            {trying ? (
              <TryPage key={page} page={page} heard={setTried} />
            ) : face.items.length === 0 ? (
              <Empty title="The face is empty">
                <p className="mb-4">
                  Make one from what the instrument has, and change it from there; or add controls one by one.
                </p>
                <div className="flex flex-wrap gap-2">
                  {PLAN_COMMANDS.map((plan, i) => (
                    <Button key={plan.id} look={i === 0 ? "primary" : "plain"} onClick={plan.run}>
                      {plan.label}
                    </Button>
                  ))}
                </div>
              </Empty>
            ) : (
              <FaceCanvas face={face} page={page} zoom={Number(zoom)} />
            )}
          </WithPinned>
        </Station>
      </Tabs>
    </FaceContext.Provider>
  );
}

/** The pages, of which one is shown; what can be done with it. */
function Pages({ page, trying }: { page: string | null; trying: boolean }) {
  const pages = useInstrument((i) => i.face.pages);
  const commands = useMemo(
    (): readonly Command[] => [
      {
        id: "remove",
        label: "Remove the page and what stands on it",
        why: () => (pages.length < 2 ? "the last one stays" : null),
        run: () => page !== null && commitFace(removeFacePage(page)),
      },
    ],
    [pages, page],
  );
  return (
    <>
      {pages.map(({ id, name }) => (
        <button
          key={id}
          type="button"
          aria-pressed={id === page}
          onClick={() => setView({ facePage: id })}
          className={cx(
            "h-6 rounded-m px-2",
            id === page ? "bg-ink text-sheet" : "text-ink-soft hover:bg-well hover:text-ink",
          )}
        >
          {name}
        </button>
      ))}
      {!trying && (
        <>
          <Button
            aria-label="Add a page"
            onClick={() => {
              const id = freshId(new Set(pages.map((p) => p.id)));
              commitFace(addFacePage(id, freeName("Page", 2, new Set(pages.map((p) => p.name)))));
              setView({ facePage: id });
            }}
          >
            <Plus size={13} aria-hidden />
          </Button>
          <MenuButton label="What can be done with the page" commands={commands} />
        </>
      )}
    </>
  );
}

/** The sizes that pages have at first on other screens, in pixels. */
const USUAL_SIZES = { tablet: { width: 800, height: 560 }, phone: { width: 360, height: 640 } } as const;

const SCREEN_OPTIONS = [
  { id: "desktop", label: "Desktop" },
  { id: "tablet", label: "Tablet" },
  { id: "phone", label: "Phone" },
] as const;

/** For which screen the face is shown: a tablet and a phone may have layouts of their own. */
function Screens() {
  const screen = useView((v) => v.faceScreen);
  const face = useInstrument((i) => i.face);
  const show = (id: "desktop" | Screen) => {
    setView({ faceScreen: id === "desktop" ? null : id });
    // The first look at a screen gives it a layout: in lines, or where anchors lead, until something is moved.
    if (id !== "desktop" && face[id] === null)
      session.commit({
        name: `Lay the face out for a ${id}`,
        apply: (doc) => ({ ...doc, face: withScreen(doc.face, id, USUAL_SIZES[id]) }),
      });
  };
  const drop = screen !== null && face[screen] !== null;
  return (
    <>
      {drop && (
        <Button
          hint="Shown as on a desktop there, made smaller"
          onClick={() => {
            setView({ faceScreen: null });
            session.commit(changeFace(`No layout for a ${screen}`, { [screen]: null }));
          }}
        >
          No layout of its own
        </Button>
      )}
      <div role="radiogroup" aria-label="Screen" className="mr-2 flex rounded-m border border-rule-strong">
        {SCREEN_OPTIONS.map(({ id, label }) => (
          <button
            key={id}
            type="button"
            role="radio"
            aria-checked={(screen ?? "desktop") === id}
            onClick={() => show(id)}
            className="h-6 px-2 first:rounded-l-m last:rounded-r-m hover:bg-well aria-checked:bg-ink aria-checked:text-sheet"
          >
            {label}
          </button>
        ))}
      </div>
    </>
  );
}

const TryHelp = ({ page }: { page: HTMLElement | null }) => (
  <>
    <h2 className="mb-2 font-display font-semibold text-l">Trying</h2>
    <p className="text-ink-soft">
      Everything works as it will for whoever plays the instrument: drag, wheel, arrow keys, double click. What is
      turned here stays turned, and can be undone.
    </p>
    <HeardList page={page} />
  </>
);
