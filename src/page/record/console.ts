/** Console messages of the look, on their lane. */
import { show } from '../../core/value/show.ts';
import { recordingNow } from './recording.ts';

const levels = { log: 'info', info: 'info', debug: 'info', warn: 'warning', error: 'error' } as const;

/** Called once, before anything of the project runs. */
export function watchConsole(): void {
  for (const method of Object.keys(levels) as (keyof typeof levels)[]) {
    const real = console[method].bind(console);
    console[method] = (...args: unknown[]) => {
      const recording = recordingNow();
      const text = args.map((arg) => (typeof arg === 'string' ? arg : show(arg))).join(' ');
      const detail = text.length > 300 ? text.slice(0, 10_000) : undefined;
      const at = recording?.now() ?? 0;
      recording?.mark({ lane: 'console', at, took: null, title: text.slice(0, 300), level: levels[method], detail });
      real(...args);
    };
  }
}
