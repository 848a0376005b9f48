const STAGES = [
  { id: "2", label: "1 notch" },
  { id: "4", label: "2 notches" },
  { id: "6", label: "3 notches" },
  { id: "8", label: "4 notches" },
  { id: "12", label: "6 notches" },
] as const;

/** How many notches there are: two all-passes make one. */
export const notches = {
  type: "choice",
  id: "stages",
  label: "Notches",
  choices: STAGES,
  default: "4",
  help: "Number of notches.",
} as const;

/** How many all-passes that takes, by the choice's number. */
export const allPasses = (choice: number): number => Number(STAGES[choice]?.id ?? 4);
