let asked: () => boolean = () => false;

/** Says how it is known that another page is on its way. */
export const onTheWayBy = (how: () => boolean): void => {
  asked = how;
};

/** Whether another page is on its way at this very moment; components learn of it only a moment later. */
export const onTheWay = (): boolean => asked();
