/** Sguardo's own console, with looks of its own: `sguardo run` in this folder. */
import type { Config } from 'sguardo/config';

export default {
  environments: {
    day: { viewport: [1280, 800] },
    night: { viewport: [1280, 800], scheme: 'dark' },
    narrow: { viewport: [900, 700] },
    wide: { viewport: [1920, 1080] },
  },
  accessibility: { failsOn: 'minor' },
} satisfies Config;
