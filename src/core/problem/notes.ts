/** Notes that are made in one place and recognised in another. */
import type { Step } from '../timeline/timeline.ts';

/** What a request came to that nobody answers, and what to write, where a project wants a note of it only. */
export const unansweredNote = ({ message, remedy }: { message: string; remedy: string }): string =>
  `${message} ${remedy}`;

/** What a target goes by that the next restyling may change, and what a person would say. */
export const structureNote = (target: string, better: string): string =>
  `${target} goes by structure or classes, which the next change of styles may break. Write ${better} instead.`;

/** A check of the absence of something of which nothing shows that it could ever have been there. */
export const neverSeenNote = (step: string): string =>
  `“${step}” – never seen: this may check nothing. Let it appear first in this look, or compare the target with what ` +
  'does appear.';

/** A script of which no check waited for anything that it did. */
export const nothingDoneNote = (checks: number, action: string): string =>
  `${checks === 1 ? 'The check of this script' : `All ${checks} checks of this script`} could have held before its ` +
  `first action (${action}): what comes of it may not be checked.`;

/** Props that contradict the shape that a look file gives them. */
export const impossibleNote = (contradictions: readonly string[]): string =>
  `No real use can produce this: ${contradictions.join('; ')}.`;

/** What a click that opens a file chooser comes to by itself. */
export const chooserNote =
  'A file chooser opened, and nothing was chosen. To choose files, write upload(target, file) instead of the click.';

/** A picture, font, sheet or film of the page's own origin that nobody has. */
export const missingFileNote = (path: string): string =>
  `The page asked for ${path}, which is not there. Put the file into the project's public folder, or answer it: ` +
  `answers: { '${path}': { file: 'src/…' } }.`;

/** Fingers on a page that takes its machine for one without a touch screen. */
export const noTouchScreenNote =
  'The page has no touch screen here, so what listens to fingers only where there is one has not heard them. Run the ' +
  "look in an environment with pointer: 'touch'.";

/** A click of which nothing comes, because what was pressed had gone from under the pointer when it was let go. */
export const slippedNote = (target: string, over: string): string =>
  `The click came to nothing: ${target} moved away while it was pressed, and was let go over ${over}. ` +
  "A person's click would be lost as well. Keep room for what appears, or show it only after the click.";

/** True for a note that is likely to say why a look failed. */
export const isDecisive = (note: string): boolean => / has no answer: /.test(note);

/** Notes with the decisive ones first, each once. */
export const inOrder = (notes: readonly string[]): string[] => {
  const all = [...new Set(notes)];
  return [...all.filter(isDecisive), ...all.filter((note) => !isDecisive(note))];
};

const wentOn = 'it went on while ';

/** Why a step that nobody has waited for may say nothing. */
export const unawaitedDoubt = (next: string): string => `${wentOn}“${next}” began`;

/** The note of a step that went on while the next began, with its place; null for any other, and one that failed so. */
export function unawaitedNote({ title, doubt, source, problem }: Step): string | null {
  if (!doubt?.startsWith(wentOn) || problem?.code === 'step-unfinished') return null;
  const at = source ? ` (${source.file}:${source.line})` : '';
  const rest = doubt.slice('it '.length);
  return `“${title}”${at} ${rest}. Put await in front of it, unless both are meant to happen at once.`;
}
