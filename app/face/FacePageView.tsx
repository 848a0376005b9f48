import { X } from "lucide-react";
import { type ReactNode, useEffect, useMemo, useRef } from "react";
import type { Face } from "../../core/instrument";
import { sizeOfPage } from "../../core/instrument";
import { faceStyle } from "./face-style";
import { useFaceFonts } from "./fonts";
import { Ground } from "./Ground";
import { PlacedView } from "./PlacedView";
import { useGrowing } from "./use-growing";

interface PageProps {
  readonly face: Face;
  readonly page: string | null;
}

/** A page with all that stands on it. */
function Page({ face, page }: PageProps) {
  const items = useMemo(
    () => face.items.filter((i) => !i.hidden && (i.page === page || i.page === null)),
    [face.items, page],
  );
  const drawn = useGrowing(items, page);
  return (
    <>
      <Ground ground={face.ground} theme={face.theme} />
      {drawn.map((item) => (
        <PlacedView key={item.id} item={item} />
      ))}
    </>
  );
}

/** A page's paper, scaled. */
function Sheet({ face, page, scale, children }: PageProps & { scale: number; children: ReactNode }) {
  const { width, height } = sizeOfPage(face, page);
  return (
    <div style={{ width: width * scale, height: height * scale }}>
      <div
        data-testid="face-page"
        className="face"
        style={{
          ...{ position: "relative", width, height, transform: `scale(${scale})`, transformOrigin: "0 0" },
          ...faceStyle(face.theme),
        }}
      >
        {children}
      </div>
    </div>
  );
}

/** The page that is shown, and the one that lies over it, as whoever plays the instrument sees them. */
export function FacePageView({
  face,
  page,
  over,
  close,
  scale,
}: PageProps & { over: string | null; close: () => void; scale: number }) {
  useFaceFonts();
  return (
    <div style={{ position: "relative" }}>
      <Sheet face={face} page={page} scale={scale}>
        <Page face={face} page={page} />
      </Sheet>
      {over !== null && <Overlay key={over} face={face} page={over} scale={scale} close={close} />}
    </div>
  );
}

/** A page over another: Escape, a press beside it or its cross closes it. */
function Overlay({ face, page, scale, close }: PageProps & { scale: number; close: () => void }) {
  const shown = face.pages.find((p) => p.id === page);
  const name = shown?.name ?? "";
  const own = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const before = document.activeElement;
    own.current?.focus();
    return () => {
      if (before instanceof HTMLElement) before.focus();
    };
  }, []);
  return (
    <div
      onPointerDown={(event) => event.target === event.currentTarget && close()}
      style={{
        position: "absolute",
        inset: 0,
        zIndex: 20,
        display: "grid",
        placeItems: "center",
        background: "rgb(0 0 0 / 0.45)",
      }}
    >
      <div
        ref={own}
        role="dialog"
        aria-modal="true"
        aria-label={name}
        tabIndex={-1}
        onKeyDown={(event) => {
          if (event.key !== "Escape") return;
          event.stopPropagation();
          close();
        }}
        style={{ position: "relative", outline: "none" }}
      >
        <Sheet face={face} page={page} scale={scale}>
          <Page face={face} page={page} />
          {shown?.when === null && (
            <button
              type="button"
              aria-label={`Close ${name}`}
              onClick={close}
              style={{
                ...{
                  position: "absolute",
                  top: 4,
                  right: 4,
                  width: 32,
                  height: 32,
                  display: "grid",
                  placeItems: "center",
                },
                ...{ background: "var(--f-fill)", color: "var(--f-ink)", border: 0, borderRadius: "var(--f-radius)" },
              }}
            >
              <X size={16} aria-hidden />
            </button>
          )}
        </Sheet>
      </div>
    </div>
  );
}
