let gestures = 0;

/** A new name for a gesture that has an end, such as one drag. */
export const newGesture = (): string => `drag-${++gestures}`;

export const isDrag = (gesture: string): boolean => gesture.startsWith("drag-");

let abandon: (gesture: string) => void = () => {};

/** Says how what a gesture has done so far is taken back. */
export const onAbandon = (how: (gesture: string) => void): void => {
  abandon = how;
};

/** Takes back what a gesture that is given up has done so far. */
export const abandonGesture = (gesture: string): void => abandon(gesture);
