/** A time on a timeline, for people. */
export const milliseconds = (time: number): string =>
  time >= 1000 ? `${(time / 1000).toFixed(2)} s` : `${time > 0 && time < 10 ? time.toFixed(1) : Math.round(time)} ms`;
