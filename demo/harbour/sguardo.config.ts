import type { Config } from 'sguardo/config';

export default {
  environments: {
    day: { viewport: [900, 640] },
    night: { viewport: [900, 640], scheme: 'dark' },
  },
} satisfies Config;
