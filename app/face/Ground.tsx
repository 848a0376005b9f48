import { faceTheme } from "../../core/face";
import type { FaceGround, FaceTheme } from "../../core/instrument";
import { usePicture } from "./pictures";

/** What lies behind all items: the theme's paper, a colour, a gradient, a picture, or a wave or spectrum of the instrument's own. */
export function Ground({ ground, theme }: { ground: FaceGround; theme: FaceTheme }) {
  const picture = usePicture(ground.kind === "picture" ? ground.picture : null);
  const { fill } = faceTheme(theme);
  switch (ground.kind) {
    case "theme":
      return null;
    case "colour":
      return <div aria-hidden style={{ ...ALL, background: ground.colour }} />;
    case "gradient":
      return (
        <div
          aria-hidden
          style={{ ...ALL, background: `linear-gradient(${ground.angle}deg, ${ground.colour}, ${ground.second})` }}
        />
      );
    case "picture":
      return picture ? (
        <img
          src={picture.data}
          alt=""
          draggable={false}
          style={{ ...ALL, width: "100%", height: "100%", objectFit: "cover" }}
        />
      ) : null;
    case "wave":
    case "spectrum":
      return (
        <svg
          aria-hidden="true"
          viewBox="0 0 1 1"
          preserveAspectRatio="none"
          style={{ ...ALL, width: "100%", height: "100%" }}
        >
          <path d={pathOf(ground)} fill={fill} />
        </svg>
      );
  }
}

const ALL = { position: "absolute", inset: 0, pointerEvents: "none" } as const;

/** A wave lies about the middle, a spectrum stands on the ground. */
function pathOf({ kind, outline }: FaceGround): string {
  const last = Math.max(1, outline.length - 1);
  const tall = kind === "wave" ? 0.46 : 0.92;
  const base = kind === "wave" ? 0.5 : 1;
  const upper = outline.map((level, i) => `${i / last} ${base - level * tall}`);
  const lower =
    kind === "wave" ? outline.map((level, i) => `${i / last} ${base + level * tall}`).reverse() : ["1 1", "0 1"];
  return outline.length === 0 ? "" : `M${[...upper, ...lower].join("L")}Z`;
}
