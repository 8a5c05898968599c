/**
 * The page that moments are drawn in: our own script on the stage's origin, around the sandboxed frame. It listens to
 * the console that embeds it, and offers the same to an engine that drives it.
 */
import type { StyleChange } from '../core/cause/effect.ts';
import type { Wanted } from '../core/cause/explain.ts';
import { Drawing, type DrawTimeline } from './drawing.ts';
import { styleChangesIn } from './styles.ts';

/** Which moment to show, with an element outlined, what covers it, and the pointer, where there are any. */
export type DrawShow = {
  kind: 'show';
  moment: number;
  outline: number | null;
  /** What lies over it. */
  cover: number | null;
  pointer: [number, number] | null;
  fit: boolean;
  ground?: string;
};
/** What the drawing page tells the page that embeds it. */
export type DrawNews = { kind: 'ready' } | { kind: 'drawn'; moment: number; width: number; height: number };

function overlay(name: string): HTMLElement {
  const element = document.createElement('div');
  element.className = name;
  document.getElementById('paper')!.append(element);
  return element;
}

/** Sets the page up: listens to the page that embeds it, and offers the same to an engine that drives it. */
export function startDrawing(): void {
  const frame = document.querySelector('iframe')!;
  const paper = document.getElementById('paper')!;
  const outline = overlay('outline');
  const cover = overlay('cover');
  const pointer = overlay('pointer');
  const drawing = new Drawing(frame);
  let last: DrawShow | null = null;

  const tell = (news: DrawNews): void => {
    if (window.parent !== window) window.parent.postMessage(news, '*');
  };

  const surround = (line: HTMLElement, node: number | null): void => {
    const box = node === null ? null : drawing.boxOf(node);
    line.style.display = box && box.width > 0 ? 'block' : 'none';
    if (!box) return;
    // What covers everything is outlined inside the paper.
    const { width, height } = drawing.view;
    const [left, top] = [Math.max(0, box.left - 3), Math.max(0, box.top - 3)];
    const [right, bottom] = [Math.min(width, box.left + box.width + 3), Math.min(height, box.top + box.height + 3)];
    Object.assign(line.style, {
      left: `${left}px`,
      top: `${top}px`,
      width: `${right - left}px`,
      height: `${bottom - top}px`,
    });
  };

  const show = (asked: DrawShow): void => {
    last = asked;
    drawing.show(asked.moment);
    if (!asked.fit) drawing.focus();
    const { width, height } = drawing.view;
    const scale = asked.fit && width > 0 ? Math.min(1, window.innerWidth / width, window.innerHeight / height) : 1;
    paper.style.width = `${width}px`;
    paper.style.height = `${height}px`;
    // Shown to people it lies in the middle; an engine that takes its picture wants it in the corner.
    const left = asked.fit ? Math.max(0, Math.round((window.innerWidth - width * scale) / 2)) : 0;
    paper.style.transform = left === 0 && scale === 1 ? 'none' : `translateX(${left}px) scale(${scale})`;
    if (asked.ground) document.body.style.background = asked.ground;
    surround(outline, asked.outline);
    surround(cover, asked.cover);
    pointer.style.display = asked.pointer ? 'block' : 'none';
    if (asked.pointer) Object.assign(pointer.style, { left: `${asked.pointer[0]}px`, top: `${asked.pointer[1]}px` });
    tell({ kind: 'drawn', moment: asked.moment, width, height });
  };

  const receive = async (message: DrawTimeline | DrawShow): Promise<void> => {
    if (message.kind === 'timeline') {
      if ((await drawing.load(message)) && last) show(last);
    } else if (message.kind === 'show') show(message);
  };

  window.addEventListener('message', (event) => {
    if (event.source === window.parent && event.source !== window) void receive(event.data as DrawTimeline | DrawShow);
  });
  // Nothing depends on the window's size but what is made to fit.
  window.addEventListener('resize', () => last?.fit && show(last));
  /** What a capture shows, and where what is asked for is in it. */
  const measure = (wanted: readonly Wanted[]) => {
    const clip = drawing.clip();
    const [width, height] = [Math.max(drawing.view.width, clip[2]), Math.max(drawing.view.height, clip[3])];
    Object.assign(paper.style, { width: `${width}px`, height: `${height}px` });
    // What reaches outside the window can only be photographed where the page itself does.
    for (const { style } of [document.documentElement, document.body])
      Object.assign(style, { overflow: 'visible', minHeight: `${height}px`, minWidth: `${width}px` });
    return { clip, found: wanted.map(({ nodes, selectors }) => drawing.find(nodes, selectors)) };
  };
  const settled = (): Promise<void> => drawing.settled();
  /** What each moment after the first does to the styles of what is asked for. */
  const styleChanges = (wanted: readonly Wanted[]): StyleChange[][] =>
    wanted.map((one, at) => styleChangesIn(drawing, 0, at + 1, one));
  Object.defineProperty(window, '__sguardoDraw', { value: { receive, settled, measure, styleChanges } });
  tell({ kind: 'ready' });
}

// The frame's own document must be there, not the blank one that every frame begins with.
const frame = document.querySelector('iframe');
if (frame?.contentDocument?.readyState === 'complete' && frame.contentDocument.URL !== 'about:blank') startDrawing();
else frame?.addEventListener('load', startDrawing, { once: true });
