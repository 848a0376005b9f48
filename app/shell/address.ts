import { useEffect, useRef } from "react";
import { useLocation, useNavigate, useNavigation, useNavigationType } from "react-router";
import { openStored } from "../state/open-instrument";
import { session } from "../state/session";
import { useInstrument } from "../state/use-session";
import { setView, useView, type View } from "../state/view";
import { whereabouts } from "../state/whereabouts";

/** Zones that an address names at the most: more can't be a link that anybody keeps. */
const MOST_ZONES = 12;

type Looked = Pick<View, "takeId" | "takePanel" | "zoneIds" | "mapPanel" | "soundUnit" | "faceItem">;

/** What of an address says what is looked at: the instrument, and for each station its own. */
export function searchOf(path: string, instrument: string, view: Looked): string {
  const search = new URLSearchParams({ of: instrument });
  const put = (name: string, value: string | null) => {
    if (value !== null && value !== "") search.set(name, value);
  };
  if (path === "/take" || path === "/cut") put("take", view.takeId);
  if (path === "/take" && view.takePanel !== "takes") put("show", view.takePanel);
  if (path === "/map" || path === "/loop") put("zones", [...view.zoneIds].slice(0, MOST_ZONES).join("."));
  if (path === "/map" && view.mapPanel !== "field") put("show", view.mapPanel);
  if (path === "/sound") put("unit", view.soundUnit);
  if (path === "/face") put("item", view.faceItem);
  return `?${search}`;
}

/** What an address wants to be looked at. */
export function looksOf(path: string, search: string): Partial<Looked> {
  const params = new URLSearchParams(search);
  const show = params.get("show");
  if (path === "/take")
    return {
      takeId: params.get("take"),
      takePanel: show === "shots" || show === "room" ? show : "takes",
    };
  if (path === "/cut") return { takeId: params.get("take") };
  const zoneIds = new Set((params.get("zones") ?? "").split(".").filter((id) => id !== ""));
  if (path === "/map") return { zoneIds, mapPanel: show === "list" ? "list" : "field" };
  if (path === "/loop") return { zoneIds };
  if (path === "/sound") return { soundUnit: params.get("unit") };
  return path === "/face" ? { faceItem: params.get("item") } : {};
}

/** Whether two addresses differ in more than what is selected, so that Back should lead from one to the other. */
function isStep(before: string, after: string): boolean {
  const [a, b] = [new URLSearchParams(before), new URLSearchParams(after)];
  return a.has("of") && ["of", "take", "show"].some((name) => a.get(name) !== b.get(name));
}

/** Keeps the address and what is looked at in step: what is chosen can be linked to and reloaded, and Back leads back to it. */
export function Address(): null {
  const { pathname, search, key } = useLocation();
  const type = useNavigationType();
  const navigate = useNavigate();
  const { state } = useNavigation();
  const id = useInstrument((i) => i.id);
  const view = useView();
  const wanted = searchOf(pathname, id, view);
  const taken = useRef("");
  const opening = useRef(false);
  useEffect(() => {
    if (search === wanted || opening.current || state !== "idle" || pathname === "/") return;
    // While another page is on its way, or there and not yet shown, its address is not this one.
    const now = whereabouts();
    if (now.leaving || now.pathname !== pathname || now.search !== search) return;
    const of = new URLSearchParams(search).get("of");
    if (type === "POP" && of !== null && taken.current !== key) {
      // Somebody came here by Back, a reload or a link.
      taken.current = key;
      const look = () => setView(looksOf(pathname, search));
      if (of === session.instrument?.id) return look();
      opening.current = true;
      void openStored(of, look).finally(() => {
        opening.current = false;
        setView({});
      });
      return;
    }
    void navigate({ pathname, search: wanted }, { replace: !isStep(search, wanted) });
  }, [search, wanted, pathname, key, type, state, navigate]);
  return null;
}
