/** Console messages of the look, on their lane. */
import { show } from '../../core/value/show.ts';
import { problem } from '../../core/problem/problem.ts';
import { failsOn } from '../host/settings.ts';
import { stackHere } from '../host/stack.ts';
import { recordingNow } from './recording.ts';
import { raise } from './trouble.ts';

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
      const level = levels[method];
      recording?.mark({ lane: 'console', at, took: null, title: text.slice(0, 300), level, detail });
      if (recording && (level === 'error' || level === 'warning') && failsOn(text))
        raise('error', problem('console-said', { level, text: text.slice(0, 2000) }), stackHere());
      real(...args);
    };
  }
}
