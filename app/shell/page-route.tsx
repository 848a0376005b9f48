import { type ComponentType, useEffect, useState } from "react";
import { type RouteObject, useRouteError } from "react-router";
import { reasonOf } from "../basis/reason-of";
import { Button } from "../widgets/Button";
import { Empty } from "./Station";

type Page = ComponentType;
type Load = () => Promise<Page>;

/** In place of a page that could not be shown: the frame around it goes on. */
function Failed({ why, again }: { why: unknown; again: () => void }) {
  return (
    <main className="flex min-w-0 flex-1 bg-sheet">
      <Empty title="This page could not be shown">
        <p className="mb-4">
          {reasonOf(why)}. Everything else goes on: what is open, what sounds, what is recorded. If the server can't be
          reached just now, try again when it can.
        </p>
        <Button look="primary" onClick={again}>
          Try again
        </Button>
      </Empty>
    </main>
  );
}

/** A page that could not be fetched when it was gone to: tried again at each visit, when the network is back, and when asked. */
function Later({ load, first }: { load: Load; first: unknown }) {
  const [page, setPage] = useState<{ readonly Shown: Page } | null>(null);
  const [why, setWhy] = useState(first);
  const [tries, setTries] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each try is a new one.
  useEffect(() => {
    let gone = false;
    load().then(
      (Shown) => gone || setPage({ Shown }),
      (error: unknown) => gone || setWhy(error),
    );
    return () => {
      gone = true;
    };
  }, [tries]);
  useEffect(() => {
    const again = () => setTries((n) => n + 1);
    addEventListener("online", again);
    return () => removeEventListener("online", again);
  }, []);
  return page ? <page.Shown /> : <Failed why={why} again={() => setTries((n) => n + 1)} />;
}

/** In place of a page that failed while it was shown. */
function Broken() {
  return <Failed why={useRouteError()} again={() => location.reload()} />;
}

/** The route of a page that is loaded when it is first gone to. */
export const pageRoute = (path: string, load: Load): RouteObject => ({
  path,
  lazy: async () => ({
    Component: await load().catch((error: unknown) => () => <Later load={load} first={error} />),
  }),
  errorElement: <Broken />,
});
