import type { ComponentType } from "react";
import { createBrowserRouter, Navigate, useRouteError } from "react-router";
import { Frame } from "./shell/Frame";
import { Gate } from "./shell/Gate";
import { Empty } from "./shell/Station";
import { whereaboutsBy } from "./state/whereabouts";
import { Button } from "./widgets/Button";

/** Each station's page, loaded when it is first gone to. */
const PAGES: Readonly<Record<string, () => Promise<ComponentType>>> = {
  "/take": async () => (await import("./stations/take/TakeStation")).TakeStation,
  "/cut": async () => (await import("./stations/cut/CutStation")).CutStation,
  "/map": async () => (await import("./stations/map/MapStation")).MapStation,
  "/loop": async () => (await import("./stations/loop/LoopStation")).LoopStation,
  "/sound": async () => (await import("./stations/sound/SoundStation")).SoundStation,
  "/motion": async () => (await import("./stations/motion/MotionStation")).MotionStation,
  "/face": async () => (await import("./stations/face/FaceStation")).FaceStation,
  "/rules": async () => (await import("./stations/rules/RulesStation")).RulesStation,
  "/ship": async () => (await import("./stations/ship/ShipStation")).ShipStation,
  "/library": async () => (await import("./stations/library/LibraryPage")).LibraryPage,
};

/** Loads all pages, so that none of them needs the server later. */
export async function loadPages(): Promise<void> {
  for (const load of Object.values(PAGES)) await load();
}

/** In place of a page that could not be shown: the frame around it goes on. */
function Failed() {
  const error = useRouteError();
  return (
    <main className="flex min-w-0 flex-1 bg-sheet">
      <Empty title="This page could not be shown">
        <p className="mb-4">
          {error instanceof Error ? error.message : String(error)}. Everything else goes on: what is open, what sounds,
          what is recorded. If the server can't be reached just now, try again when it can.
        </p>
        <Button look="primary" onClick={() => void router.navigate(location.pathname, { replace: true })}>
          Try again
        </Button>
      </Empty>
    </main>
  );
}

/** One route for each station. */
export const router = createBrowserRouter([
  {
    element: (
      <Gate>
        <Frame />
      </Gate>
    ),
    children: [
      { path: "/", element: <Navigate to="/take" replace /> },
      ...Object.entries(PAGES).map(([path, load]) => ({
        path,
        lazy: async () => ({ Component: await load() }),
        errorElement: <Failed />,
      })),
      { path: "*", element: <Navigate to="/take" replace /> },
    ],
  },
]);
whereaboutsBy(() => ({
  pathname: router.state.location.pathname,
  search: router.state.location.search,
  leaving: router.state.navigation.state !== "idle",
}));
