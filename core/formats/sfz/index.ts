export { programOf, type SfzProgram } from "./program";
export { instrumentOfSfz, type OpenedSfz, type SfzLoss } from "./read";
export { folderOf, insidePath, readSfzText } from "./text";
export { type WrittenSfz, writeSfz } from "./write";
