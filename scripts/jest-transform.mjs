// How Jest reads TypeScript: by swc, with the globals that computing needs at hand in each module. In the world that Jest makes for a test each look
// at a global goes through a trap, which makes loops over samples several times as slow.
import swc from "@swc/jest";

const NAMES = "Math, Number, Float32Array, Float64Array, Int32Array, Uint8Array, Uint32Array, Array, Object, JSON";
/** On the first line, so that the lines keep their numbers. */
const AT_HAND = `const { ${NAMES} } = globalThis; `;

const transformerOf = (tsx) =>
  swc.createTransformer({
    jsc: {
      target: "es2022",
      parser: { syntax: "typescript", tsx },
      transform: { react: { runtime: "automatic" } },
    },
    module: { type: "es6" },
  });
const [plain, components] = [transformerOf(false), transformerOf(true)];
const transformerFor = (path) => (path.endsWith("x") ? components : plain);

/** A comment at the head of a test says in which world it runs: it must stay there. */
const withHand = (source) => (source.startsWith("/** @jest") ? source.replace("\n", `\n${AT_HAND}`) : AT_HAND + source);

export default {
  ...plain,
  process: (source, path, ...rest) => transformerFor(path).process(withHand(source), path, ...rest),
  processAsync: (source, path, ...rest) => transformerFor(path).processAsync(withHand(source), path, ...rest),
  getCacheKey: (source, path, ...rest) => transformerFor(path).getCacheKey(withHand(source), path, ...rest),
};
