// How Jest reads TypeScript: by swc, with the globals that computing needs at hand in each module. In the world that Jest makes for a test each look
// at a global goes through a trap, which makes loops over samples several times as slow.
import swc from "@swc/jest";

const NAMES = "Math, Number, Float32Array, Float64Array, Int32Array, Uint8Array, Uint32Array, Array, Object, JSON";
/** On the first line, so that the lines keep their numbers. */
const AT_HAND = `const { ${NAMES} } = globalThis; `;

const transformer = swc.createTransformer({
  jsc: { target: "es2022", parser: { syntax: "typescript", tsx: false } },
  module: { type: "es6" },
});

export default {
  ...transformer,
  process: (source, ...rest) => transformer.process(AT_HAND + source, ...rest),
  processAsync: (source, ...rest) => transformer.processAsync(AT_HAND + source, ...rest),
  getCacheKey: (source, ...rest) => transformer.getCacheKey(AT_HAND + source, ...rest),
};
