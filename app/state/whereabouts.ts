/** Where the router stands: its address, and whether another page is on its way. Components learn of it only a moment later. */
interface Whereabouts {
  readonly pathname: string;
  readonly search: string;
  readonly leaving: boolean;
}

let asked: () => Whereabouts = () => ({ pathname: "", search: "", leaving: true });

/** Says how it is known where the router stands. */
export const whereaboutsBy = (how: () => Whereabouts): void => {
  asked = how;
};

export const whereabouts = (): Whereabouts => asked();

/** Asks, now and later, whether somebody still stands where they do now: whoever has gone on isn't to be taken away from there by what ends then. */
export const stayingHere = (): (() => boolean) => {
  const { pathname } = whereabouts();
  return () => whereabouts().pathname === pathname;
};
