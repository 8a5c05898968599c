/** What an animation does as time passes, as values. Times are milliseconds. */

/** How far an animation is, and where it begins and ends (Web Animations, “computed timing”). */
export type Motion = {
  /** Where it is on its own time, on which it begins with its delay. */
  at: number;
  /** How fast its own time passes; below zero it runs backwards. */
  rate: number;
  delay: number;
  /** The end of its own time, after all iterations; infinite for one that goes on for ever. */
  end: number;
};

/** True for an animation that goes on for ever. */
export const isUnending = ({ end, rate }: Motion): boolean => !Number.isFinite(end) && rate > 0;

/** How long until it begins or ends, whichever comes next: the instants of which it tells. Null when it stands. */
export function untilNext({ at, rate, delay, end }: Motion): number | null {
  if (rate === 0) return null;
  const wanted = rate > 0 ? (at < delay ? delay : end) : at > end ? end : 0;
  const left = (wanted - at) / rate;
  return Number.isFinite(left) ? Math.max(0, left) : null;
}

/** How long until it ends; 0 when it stands. */
export const untilEnd = ({ at, rate, end }: Motion): number =>
  rate === 0 ? 0 : Math.max(0, ((rate > 0 ? end : 0) - at) / rate);

/** Where it is after so many milliseconds. */
export const moved = ({ at, rate }: Motion, milliseconds: number): number => at + rate * milliseconds;

/** Engines take an animation for ended a thousandth of a millisecond before its end; nobody sees ten times that. */
const aHair = 0.01;

/** Where it is right before what it comes to after so many milliseconds, and not yet there for any engine. */
export function rightBefore(motion: Motion, milliseconds: number): number {
  const back = moved(motion, milliseconds) - Math.sign(motion.rate) * aHair;
  return motion.rate > 0 ? Math.max(motion.at, back) : Math.min(motion.at, back);
}

/** Members of a keyframe that are no property. */
const about: ReadonlySet<string> = new Set(['offset', 'computedOffset', 'easing', 'composite']);

/** The properties that a keyframe sets, as scripts write them. */
export const propertiesOf = (keyframe: object): string[] => Object.keys(keyframe).filter((name) => !about.has(name));

/** What an animation may change without moving anything. */
const painted = new RegExp(
  '^(opacity|color|fill|stroke|visibility|boxShadow|textShadow|filter|backdropFilter|' +
    'outline.*|background.*|.*Color|textDecoration.*|strokeDash.*)$',
);

/** True when a change of this property may move what is shown. */
export const mayMoveThings = (property: string): boolean => !painted.test(property);
