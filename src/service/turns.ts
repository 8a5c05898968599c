/** Work that is done one after the other. */

/** A queue: what is given to it begins when everything before it has ended, well or not. */
export function oneByOne(): <T>(work: () => Promise<T>) => Promise<T> {
  let last: Promise<unknown> = Promise.resolve();
  return (work) => {
    const mine = last.then(work);
    last = mine.catch(() => {});
    return mine;
  };
}
