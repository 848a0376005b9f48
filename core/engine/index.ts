export { CONTROL, Engine, type EngineOptions, type EngineStatus } from "./engine";
export type { EmitNote, NoteRules } from "./note-rules";
export { baseValues, compile, type Plan, routeProblem, sameStructure } from "./plan";
export { PHRASES, type Phrase, phraseEvents } from "./phrases";
export { renderSong, type SongRender } from "./offline";
export { type NoteTrace, REASON } from "./trace";
