/** What can be wrong with foreign bytes; the code is stable, the message is for people. */
export type FormatCode =
  | "empty"
  | "not-this-format"
  | "truncated"
  | "unsupported"
  | "no-audio"
  | "too-large"
  | "unsafe-name"
  | "newer-version"
  | "damaged"
  | "invalid-document";

/** The one error that readers of foreign bytes throw: a code, the byte offset where it was seen, and a sentence. */
export class FormatError extends Error {
  override readonly name = "FormatError";
  constructor(
    readonly code: FormatCode,
    readonly offset: number,
    message: string,
  ) {
    super(message);
  }
}
