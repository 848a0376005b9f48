import { createBrowserRouter, Navigate } from "react-router";
import { Frame } from "./shell/Frame";
import { Gate } from "./shell/Gate";

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
      { path: "/take", lazy: async () => ({ Component: (await import("./stations/take/TakeStation")).TakeStation }) },
      { path: "/cut", lazy: async () => ({ Component: (await import("./stations/cut/CutStation")).CutStation }) },
      { path: "/map", lazy: async () => ({ Component: (await import("./stations/map/MapStation")).MapStation }) },
      { path: "/loop", lazy: async () => ({ Component: (await import("./stations/loop/LoopStation")).LoopStation }) },
      {
        path: "/sound",
        lazy: async () => ({ Component: (await import("./stations/sound/SoundStation")).SoundStation }),
      },
      {
        path: "/motion",
        lazy: async () => ({ Component: (await import("./stations/motion/MotionStation")).MotionStation }),
      },
      { path: "/face", lazy: async () => ({ Component: (await import("./stations/face/FaceStation")).FaceStation }) },
      {
        path: "/rules",
        lazy: async () => ({ Component: (await import("./stations/rules/RulesStation")).RulesStation }),
      },
      { path: "/ship", lazy: async () => ({ Component: (await import("./stations/ship/ShipStation")).ShipStation }) },
      {
        path: "/library",
        lazy: async () => ({ Component: (await import("./stations/library/LibraryPage")).LibraryPage }),
      },
      { path: "*", element: <Navigate to="/take" replace /> },
    ],
  },
]);
