import type { Config } from 'sguardo/config';

/** A project whose looks show what a look can do, and every way in which one can go wrong. The tests run it. */
export default {
  baselines: false,
  // Nothing is approved here, and how looks share a document is what some of them are about.
  isolate: 'file',
  environments: { plain: { viewport: [640, 480] } },
  patience: 1500,
  timeLimit: 4000,
} satisfies Config;
