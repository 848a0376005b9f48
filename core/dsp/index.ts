export { Adsr, type AdsrStage } from "./adsr";
export { fadeWeights, likeness, loopedSample } from "./crossfade";
export { compileKernels, type Kernels, startKernels } from "./kernels/kernels";
export * as layout from "./kernels/layout";
export { type LfoShape, lfoAt } from "./lfo";
export { Limiter } from "./limiter";
export { Reverb } from "./reverb";
export { interpolate, makeBanks, MOST_TAPS, type SincBank } from "./sinc";
export { dampingOf, type FilterMode, type SvfCoefficients, svfResponse, tuneSvf } from "./svf";
