/**
 * Dialogs of the browser: a real one would block the page, so each is noted and answered as by somebody who presses
 * Escape.
 */
import type { Pin, Report } from './pin.ts';

let report: Report = () => {};

const dismissed = (name: string, text: unknown): void =>
  report(
    'warning',
    `${name}(“${String(text ?? '')}”) opened a dialog, which blocks a page; it was dismissed. To test it, give ` +
      'the component a function of its own to call, and a spy() for it.',
  );

export const dialogs: Pin = {
  install() {
    window.alert = (text?: unknown) => dismissed('alert', text);
    window.confirm = (text?: unknown) => {
      dismissed('confirm', text);
      return false;
    };
    window.prompt = (text?: unknown) => {
      dismissed('prompt', text);
      return null;
    };
    window.print = () => dismissed('print', '');
  },
  begin(_request, to) {
    report = to;
  },
};
