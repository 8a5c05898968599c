/** What the frames of the stage tell the console, in the place of looks that are really there. */
import type { FromStage } from '../../core/wire/live.ts';

const told: FromStage = {
  from: 'sguardo-stage',
  kind: 'shown',
  component: 'src/BerthCard',
  look: 'released',
  looks: ['free', 'taken', 'released'].map((look) => ({ look, hasScript: look === 'released' })),
  types: {
    is: 'object',
    name: 'Props',
    others: null,
    entries: {
      berth: { type: { is: 'text' }, isOptional: false, isOwn: true },
      draught: { type: { is: 'number' }, isOptional: true, isOwn: true },
      isOpen: { type: { is: 'boolean' }, isOptional: true, isOwn: true },
      tone: {
        type: { is: 'one', of: ['calm', 'loud'].map((value) => ({ is: 'value' as const, value })) },
        isOptional: true,
        isOwn: true,
      },
      onRelease: {
        type: { is: 'function', hears: true, text: '(berth: string) => void' },
        isOptional: true,
        isOwn: true,
      },
    },
  },
  props: { berth: { json: 'C-14' }, draught: { json: 4.2 } },
};

/** A look that can be used, and was. */
export const shown: FromStage[] = [told, { from: 'sguardo-stage', kind: 'called', prop: 'onRelease', args: '"C-14"' }];

/** A look that cannot be shown. */
export const troubled: FromStage[] = [
  { from: 'sguardo-stage', kind: 'trouble', message: 'TypeError: ship is undefined, src/BerthCard.tsx:22:31' },
];

const card = '<h1>C-14</h1><p>Alba, until Thursday</p><button>Release berth</button>';

/** True once there are frames, and each has been answered. */
export function areFramesThere(): boolean {
  const frames = [...document.querySelectorAll('iframe')];
  const isAnswered = ({ contentDocument }: HTMLIFrameElement): boolean =>
    contentDocument?.readyState === 'complete' && contentDocument.URL !== 'about:blank';
  return frames.length > 0 && frames.every(isAnswered);
}

const framePages = (): Document[] =>
  [...document.querySelectorAll('iframe')].map(({ contentDocument }) => contentDocument!);

/** Leaves every frame blank. What the browser itself shows of an answer like ours is not the console's. */
export function stageIsSilent(): void {
  for (const { body } of framePages()) body.replaceChildren();
}

/** Has every frame show a berth, and tell something. */
export function stageTells(news: readonly FromStage[]): void {
  for (const page of framePages()) {
    const script = page.createElement('script');
    script.textContent = `for (const one of ${JSON.stringify(news)}) parent.postMessage(one, '*');`;
    page.body.innerHTML = card;
    page.body.style.cssText = 'margin: 24px; background: #fdfcf9; color: #20242f; font: 14px sans-serif';
    page.body.append(script);
  }
}
