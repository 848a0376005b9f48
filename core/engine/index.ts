export { Engine, type EngineOptions, type EngineStatus } from "./engine";
export type { EmitNote, NoteRules } from "./note-rules";
export { renderSong, type SongRender } from "./offline";
export { PHRASES, type Phrase, phraseEvents, phraseFor } from "./phrases";
export { baseValues, compile, idleReason, type Plan, routeProblem, sameStructure } from "./plan";
export { type Range, reachOfRoutes } from "./reach";
export { type NoteTrace, REASON, type Reason } from "./trace";
