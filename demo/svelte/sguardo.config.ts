import type { Config } from 'sguardo/config';

export default {
  environments: { day: { viewport: [900, 640] } },
} satisfies Config;
