/** Begins what takes longest while the rest of the service is still being loaded. */
import { readConfig } from '../work/index.ts';

/** Has the bundler's process started. What is wrong with the configuration is told when it is read in earnest. */
export const warmUp = (config: string): void => void readConfig(config).catch(() => {});
