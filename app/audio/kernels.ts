// By itself, so that a page fetches the kernels beside what it shows first, and not before it.
export { compileKernels } from "../../core/dsp";
