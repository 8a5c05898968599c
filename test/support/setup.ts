/** Read anew before every test file: files of one worker share their modules, and each ends what it has started. */
import { afterAll } from 'vitest';
import { endAll } from './afterwards.ts';

// Hooks are taken while a file is being read only: one that a running test registers would never be called.
afterAll(endAll);
