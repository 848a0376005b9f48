import { createBrowserRouter, Navigate } from "react-router";
import { Frame } from "./shell/Frame";
import { Gate } from "./shell/Gate";
import { CutStation } from "./stations/cut/CutStation";
import { FaceStation } from "./stations/face/FaceStation";
import { LibraryPage } from "./stations/library/LibraryPage";
import { LoopStation } from "./stations/loop/LoopStation";
import { MapStation } from "./stations/map/MapStation";
import { MotionStation } from "./stations/motion/MotionStation";
import { RulesStation } from "./stations/rules/RulesStation";
import { ShipStation } from "./stations/ship/ShipStation";
import { SoundStation } from "./stations/sound/SoundStation";
import { TakeStation } from "./stations/take/TakeStation";

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
      { path: "/take", element: <TakeStation /> },
      { path: "/cut", element: <CutStation /> },
      { path: "/map", element: <MapStation /> },
      { path: "/loop", element: <LoopStation /> },
      { path: "/sound", element: <SoundStation /> },
      { path: "/motion", element: <MotionStation /> },
      { path: "/face", element: <FaceStation /> },
      { path: "/rules", element: <RulesStation /> },
      { path: "/ship", element: <ShipStation /> },
      { path: "/library", element: <LibraryPage /> },
      { path: "*", element: <Navigate to="/take" replace /> },
    ],
  },
]);
