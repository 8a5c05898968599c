/** What a page shows, picture after picture, for whoever waits for the next one. */

/** A picture with its number; later ones have higher numbers. */
export type Picture = { number: number; png: Buffer };

export type Pictures = {
  /** There is a newer one. */
  show(png: Buffer): void;
  /** The newest picture once it is newer than `after`; null when none comes for a while, or any more. */
  next(after: number): Promise<Picture | null>;
  /** No more will come. */
  end(): void;
};

/** How long somebody waits for the next picture, in milliseconds. */
const limit = 20_000;

export function pictures(): Pictures {
  let newest: Picture | null = null;
  let waiting: ((picture: Picture | null) => void)[] = [];
  let isOver = false;
  const tell = (picture: Picture | null): void => {
    const hearing = waiting;
    waiting = [];
    for (const hear of hearing) hear(picture);
  };
  return {
    show(png) {
      newest = { number: (newest?.number ?? 0) + 1, png };
      tell(newest);
    },
    next(after) {
      if (newest && newest.number > after) return Promise.resolve(newest);
      if (isOver) return Promise.resolve(null);
      return new Promise((resolve) => {
        const timer = setTimeout(resolve, limit, null);
        timer.unref();
        waiting.push((picture) => {
          clearTimeout(timer);
          resolve(picture);
        });
      });
    },
    end() {
      isOver = true;
      tell(null);
    },
  };
}
