/** Evidence: what an observer found out while a look ran, such as coverage or timings. */
export type Evidence = {
  /** What kind of evidence it is; each observer has one of its own. */
  kind: string;
  /** A JSON value. */
  data: unknown;
};
