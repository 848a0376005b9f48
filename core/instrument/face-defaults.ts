import type { Face, FaceCondition, FaceGround, FaceItem, FacePage, Move, OwnLook, PictureLayer } from "./face-model";

/** A page, as plain as it can be. */
export const newPage = (id: string, name: string): FacePage => ({
  id,
  name,
  width: null,
  height: null,
  over: false,
  when: null,
});

/** The page that every face has at first. */
export const newPages = (): FacePage[] => [newPage("front", "Front")];

export const newGround = (): FaceGround => ({
  kind: "theme",
  colour: "#faf7ec",
  second: "#c7a57a",
  angle: 90,
  picture: null,
  outline: [],
});

/** A face without anything on it. */
export const newFace = (): Face => ({
  width: 640,
  height: 360,
  theme: "ledger",
  ground: newGround(),
  pages: newPages(),
  items: [],
  pictures: [],
  fonts: [],
  guides: [],
  tablet: null,
  phone: null,
});

/** A parameter moved over its whole travel, straight. */
export const newMove = (address: string): Move => ({ address, from: 0, to: 1, bend: 0, fixed: false });

/** Some parameters moved over their whole travel. */
export const moving = (...addresses: readonly string[]): readonly Move[] => addresses.map(newMove);

/** A condition that greys an item while something is in the lower half of its travel. */
export const newCondition = (address: string): FaceCondition => ({
  address,
  is: "above",
  share: 0.5,
  upTo: 1,
  does: "enables",
  tone: "spot",
  picture: null,
});

/** A picture as it is, behind nothing. */
export const newPictureLayer = (picture: string): PictureLayer => ({ picture, does: "stays", frames: 1, rate: 12 });

/** Nothing of an item's own: all as its theme has it. */
export const PLAIN_LOOK: OwnLook = { ink: null, spot: null, fill: null, letters: null, dial: null, font: null };

/** An item of a face, as plain as it can be. */
export const newFaceItem = (given: Partial<FaceItem> & Pick<FaceItem, "id" | "kind">): FaceItem => ({
  name: "",
  page: "front",
  x: 40,
  y: 40,
  width: 120,
  height: 120,
  turn: 0,
  text: "",
  moves: [],
  form: "",
  tone: "ink",
  amount: 0.3,
  pictures: [],
  wave: null,
  look: PLAIN_LOOK,
  group: null,
  locked: false,
  hidden: false,
  when: [],
  anchorX: "scale",
  anchorY: "scale",
  tablet: null,
  phone: null,
  ...given,
});
