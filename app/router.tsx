import type { ComponentType } from "react";
import { createBrowserRouter, Navigate } from "react-router";
import { BrokenFrame } from "./shell/BrokenFrame";
import { Frame } from "./shell/Frame";
import { Gate } from "./shell/Gate";
import { pageRoute } from "./shell/page-route";
import { whereaboutsBy } from "./state/whereabouts";

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

/** Loads all pages that can be had, so that none of them needs the server later. */
export async function loadPages(): Promise<void> {
  for (const load of Object.values(PAGES)) await load().catch(() => {});
}

/** One route for each station. */
export const router = createBrowserRouter([
  {
    element: (
      <Gate>
        <Frame />
      </Gate>
    ),
    errorElement: <BrokenFrame />,
    children: [
      { path: "/", element: <Navigate to="/take" replace /> },
      ...Object.entries(PAGES).map(([path, load]) => pageRoute(path, load)),
      { path: "*", element: <Navigate to="/take" replace /> },
    ],
  },
]);
whereaboutsBy(() => ({
  pathname: router.state.location.pathname,
  search: router.state.location.search,
  leaving: router.state.navigation.state !== "idle",
}));
