import "./theme.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { RouterProvider } from "react-router";
import { recorder } from "./audio/recorder";
import { reasonOf } from "./basis/reason-of";
import { keepForLater } from "./offline/register";
import { loadPages, router } from "./router";
import { deleteOld } from "./state/deleted";
import { installedOnce } from "./state/demo";
import { engine, rulesModule } from "./state/engine";
import { freshId } from "./state/ids";
import { tell, useJobs } from "./state/notices";
import { opening } from "./state/open-instrument";
import { playerTemplate } from "./state/player-template";
import { session } from "./state/session";
import { beHere, sweepAudio } from "./state/sweep-audio";
import { showTheme, useView } from "./state/view";

showTheme(useView.getState().theme);
/** Does something as soon as there is time for it. */
const atLeisure = (work: () => void, timeout: number) => requestIdleCallback(work, { timeout });

// The first audio context takes a fifth of a second of the page's time: not before there is something to see.
atLeisure(() => void engine.prepare(), 1000);
for (const gesture of ["pointerdown", "keydown"])
  addEventListener(gesture, () => void engine.start(), { capture: true });
// What was changed last is stored before the page goes.
addEventListener("pagehide", () => void session.save());
addEventListener("visibilitychange", () => document.visibilityState === "hidden" && void session.save());
// A drag or a held key has ended: what it changed is stored soon.
for (const end of ["pointerup", "pointercancel", "keyup"])
  addEventListener(end, () => session.rest(), { capture: true });
// Leaving asks first while something would be lost by it.
addEventListener("beforeunload", (event) => {
  const unfinished = recorder.store.getState().recording || useJobs.getState().jobs.length > 0;
  if (unfinished || session.store.getState().saved === "failed") event.preventDefault();
});
beHere();
session.refused = (why) => tell("warning", why);
session.lostWork = (instrument) => {
  const name = `${instrument.about.name} (what wasn’t saved)`;
  const keepCopy = async (abandon: boolean) => {
    await session.begin({ ...instrument, id: freshId(), about: { ...instrument.about, name } }, abandon);
    return true;
  };
  tell("error", `Another tab has taken “${instrument.about.name}” over before what was done here was saved.`, {
    label: "Keep it as a copy",
    run: () =>
      void opening((abandon) => keepCopy(abandon)).catch((error) =>
        tell("error", `It was not kept: ${reasonOf(error)}.`),
      ),
  });
};

// Whatever else comes from the server is fetched once the library is filled, so that it may be out of reach from then on.
// One that fails keeps none of the others from being tried: what is wanted later is asked for again, and told.
const REST = [loadPages, playerTemplate, rulesModule, keepForLater, deleteOld, sweepAudio];
const fetchRest = async () => {
  for (const one of REST) await Promise.resolve(one()).catch(() => {});
};
void installedOnce()
  .catch(() => {})
  .then(() => atLeisure(() => void fetchRest(), 1000));

const root = document.getElementById("app");
if (!root) throw new Error("the page has no place for the application");
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider
      client={
        new QueryClient({
          defaultOptions: { queries: { networkMode: "always" }, mutations: { networkMode: "always" } },
        })
      }
    >
      <Tooltip.Provider delayDuration={500}>
        <RouterProvider router={router} />
      </Tooltip.Provider>
    </QueryClientProvider>
  </StrictMode>,
);
