/** Under which conditions looks are run again, to find out whether they come out the same. */

/** How one round of looks is run. */
export type Conditions = {
  /** Counted from 1; the first one is what the others are compared with. */
  round: number;
  lanes: number;
  /** Endless loops beside it leave next to nothing of the processor. */
  isBusy: boolean;
  /** The windows of the browser are new. */
  isCold: boolean;
  /** Whatever can happen in real time gets more of it before the look's own time moves on. */
  isLate: boolean;
  /** Shuffles files and looks; null leaves them in their order. */
  seed: number | null;
};

/** How looks are run usually. */
export const usualConditions = (lanes: number): Conditions => ({
  round: 1,
  lanes,
  isBusy: false,
  isCold: false,
  isLate: false,
  seed: null,
});

/** The conditions of a round: every kind comes up among any four rounds after the first. */
export const conditionsOf = (round: number, lanes: number): Conditions =>
  round === 1
    ? usualConditions(lanes)
    : {
        round,
        lanes: round % 2 === 0 ? 1 : Math.max(2, lanes),
        isBusy: true,
        isCold: round % 4 === 3,
        isLate: round % 4 < 2,
        seed: round,
      };

/** `1 lane, busy processor, cold browser, shuffled` */
export const conditionsInWords = ({ lanes, isBusy, isCold, isLate, seed }: Conditions): string =>
  [
    lanes === 1 ? '1 lane' : `${lanes} lanes`,
    isBusy ? 'busy processor' : 'quiet processor',
    isCold ? 'cold browser' : '',
    isLate ? 'timers late' : 'timers early',
    seed === null ? '' : 'shuffled',
  ]
    .filter((one) => one !== '')
    .join(', ');
