/// <reference types="vite/client" />
declare module "*?worklet" {
  const url: string;
  export default url;
}
declare module "@jitl/quickjs-wasmfile-release-sync/wasm?url" {
  const url: string;
  export default url;
}
