import "./theme.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { RouterProvider } from "react-router";
import { engine } from "./audio/engine";
import { router } from "./router";
import { session } from "./state/session";
import { showTheme, useView } from "./state/view";

showTheme(useView.getState().theme);
// The first audio context takes a fifth of a second of the page's time: not before there is something to see.
requestIdleCallback(() => void engine.prepare(), { timeout: 1000 });
for (const gesture of ["pointerdown", "keydown"])
  addEventListener(gesture, () => void engine.start(), { capture: true });
// What was changed last is stored before the page goes.
addEventListener("pagehide", () => void session.save());
addEventListener("visibilitychange", () => document.visibilityState === "hidden" && void session.save());

const root = document.getElementById("app");
if (!root) throw new Error("the page has no place for the application");
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={new QueryClient()}>
      <Tooltip.Provider delayDuration={500}>
        <RouterProvider router={router} />
      </Tooltip.Provider>
    </QueryClientProvider>
  </StrictMode>,
);
