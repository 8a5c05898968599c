/** Files and selections that a script hands to its page: chosen, dropped or pasted. */
import { fail, ProblemError } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import { show } from '../../core/value/show.ts';
import { askFailure, type GivenFile, type Load } from '../../core/wire/wire.ts';
import type { Action, Carried } from '../../language/command.ts';
import { ask } from '../host/host.ts';
import { base64Of } from '../network/replies.ts';
import type { Recording } from '../record/recording.ts';
import { handComes } from '../session/hand.ts';
import { inCode, type Target } from '../../language/target.ts';
import { actionable } from './actionable.ts';
import { bestTarget } from './bestTarget.ts';
import { around } from './flat.ts';
import { whyOutOfReach } from './handle.ts';
import { describe } from './names.ts';
import { only } from './retry.ts';
import { afterInput, asHeld, clickAt } from './input.ts';
import { caretMoved } from './caret.ts';
import { enterField } from './field.ts';

// Taken before a component can replace it.
const read = Blob.prototype.arrayBuffer;

/** @throws ProblemError `bad-step` for what is no file */
async function givenFile(file: unknown, action: string): Promise<GivenFile> {
  if (typeof file === 'string' && file !== '') return { path: file };
  if (file instanceof File) return { name: file.name, base64: base64Of(new Uint8Array(await read.call(file))) };
  return fail('bad-step', {
    what: `${action}(…) was given ${show(file)} for a file.`,
    remedy: "Use new File(['…'], 'manifest.csv'), or the path of a file from the project's root: 'data/manifest.csv'",
  });
}

/** What is carried, as it is sent to the host. @throws ProblemError `bad-step` for what holds nothing */
export async function loadOf(what: Carried, action: 'drag' | 'paste'): Promise<Load> {
  const { text = null, html = null, files = [] } = (typeof what === 'object' && what) || {};
  const isText = [text, html].every((one) => one === null || typeof one === 'string');
  if (!isText || !Array.isArray(files) || (text === null && html === null && files.length === 0))
    return fail('bad-step', {
      what: `${action}(…) was given ${show(what)}.`,
      remedy:
        action === 'paste'
          ? "Give it a text, or any of { text, html, files }: paste(the.field('Notes'), 'Alba')"
          : "Give it a target, or any of { text, html, files }: drag({ files: [file] }, the.region('Manifests'))",
    });
  return { text, html, files: await Promise.all(files.map((file) => givenFile(file, action))) };
}

/** What an ask to carry, choose or paste failed with, to a person. */
export function explainAsk(error: unknown, target: string): never {
  const text = error instanceof Error ? error.message : '';
  if (text === askFailure.noChooser) fail('chooser-missing', { target });
  if (text === askFailure.oneFile) fail('chooser-single', { target });
  if (text === askFailure.noDrag) fail('drag-lost', { target });
  if (text.startsWith(askFailure.noFile)) fail('file-missing', { file: text.slice(askFailure.noFile.length) });
  return fail('bad-step', {
    what: `The browser did not take what it was given: ${text}.`,
    remedy: 'Check what the files are called and what they hold.',
  });
}

/** What is given to a field that its page keeps out of sight is what a person clicks in its place. */
function explainHidden(error: unknown, target: Target): never {
  if (!(error instanceof ProblemError) || error.problem.code !== 'target-hidden') throw error;
  const element = only(target);
  if (!element.matches('input[type=file]')) throw error;
  const shown = [...around(element)].find((one) => whyOutOfReach(one) === null);
  const why = whyOutOfReach(element) ?? '';
  return fail(
    'chooser-hidden',
    { target: String(target), why },
    shown ? { found: [`${describe(shown)}: ${inCode(bestTarget(shown))}`] } : {},
  );
}

/** Clicks a target and chooses files in the chooser that opens. */
export async function uploadFiles(
  current: Step,
  recording: Recording,
  { target, files }: Extract<Action, { do: 'upload' }>,
): Promise<void> {
  const given = await Promise.all(files.map((file) => givenFile(file, 'upload')));
  const aimed = actionable(current, recording, target, { action: 'click', needsEnabled: true });
  const { point } = await aimed.catch((error: unknown) => explainHidden(error, target));
  await handComes();
  await ask(recording.number, { do: 'choose', events: asHeld(clickAt(point)), files: given }).catch((error: unknown) =>
    explainAsk(error, String(target)),
  );
  await afterInput();
}

/** Pastes where the focus is, or into a field. */
export async function pasteInto(
  current: Step,
  recording: Recording,
  { target, what }: Extract<Action, { do: 'paste' }>,
): Promise<void> {
  const load = await loadOf(what, 'paste');
  if (load.files.length > 1 || load.files.some((file) => !/\.png$/i.test('path' in file ? file.path : file.name)))
    fail('bad-step', {
      what: 'paste(…) was given files that no clipboard holds in this browser.',
      remedy: 'It takes one PNG at a time. Other files can be dropped: drag({ files: [file] }, target)',
    });
  if (target) await enterField(current, recording, target, 'pasting');
  await handComes();
  await ask(recording.number, { do: 'paste', load }).catch((error: unknown) => explainAsk(error, String(target)));
  await afterInput();
  caretMoved('keys');
}
