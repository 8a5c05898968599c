/** Options that several commands have. */
import { Option } from 'commander';

/** An option that can be given several times; `whenNone` is what its help says of its being left out. */
export const repeatable = (flags: string, description: string, whenNone: string): Option =>
  new Option(flags, `${description} (can be repeated)`)
    .argParser((value: string, before: string[]) => [...before, value])
    .default([], whenNone);

/** Which looks, by their tags; for every command that chooses looks. */
export const tagOption = (): Option => repeatable('--tag <name>', 'only looks with this tag', 'none');
export const withoutTagOption = (): Option => repeatable('--without-tag <name>', 'but none with this one', 'none');

/** Where looks are run, for every command that runs them. */
export const environmentOption = (): Option =>
  repeatable('-e, --env <name>', 'only in this environment', 'all of them');
