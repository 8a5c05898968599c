/** What a moment does not record although a picture shows it: such captures are photographed whatever their moment. */
import { isTaught } from '../pins/registries.ts';
import { tagsWithInternals } from './internals.ts';
import { rootsNow } from './roots.ts';

/** Elements that show something of their own that cannot be read, or that moves by itself. */
const opaque = 'video,audio[controls],object,embed,iframe,frame,progress:not([value]),marquee,input[type=file]';

/** What canvases are drawn with: asking them for it would settle that. */
const brushes = new WeakMap<HTMLCanvasElement, unknown>();

/** Called once, before anything of the project runs. */
export function watchOpaque(): void {
  const { getContext, transferControlToOffscreen } = HTMLCanvasElement.prototype;
  HTMLCanvasElement.prototype.getContext = function (this: HTMLCanvasElement, ...args: unknown[]) {
    const brush: unknown = getContext.apply(this, args as never);
    if (brush) brushes.set(this, brush);
    return brush;
  } as typeof getContext;
  HTMLCanvasElement.prototype.transferControlToOffscreen = function () {
    brushes.set(this, 'a worker');
    return transferControlToOffscreen.call(this);
  };
}

/** Text that is selected is painted otherwise. */
function isSelected(): boolean {
  if (getSelection()?.isCollapsed === false) return true;
  const field = document.activeElement;
  if (!(field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement)) return false;
  return field.selectionStart !== null && field.selectionStart !== field.selectionEnd;
}

/** A canvas whose pixels cannot be read, or that reading would find blank. */
function isUnread(canvas: HTMLCanvasElement): boolean {
  const brush = brushes.get(canvas);
  if (!brush || canvas.width === 0 || canvas.height === 0) return false;
  try {
    return !(brush instanceof CanvasRenderingContext2D) || !brush.getImageData(0, 0, 1, 1);
  } catch {
    return true;
  }
}

/** True when the page may show something that its moment does not tell of. */
export function isOpaque(): boolean {
  const roots = rootsNow();
  const some = (selector: string): boolean => roots.some((root) => root.querySelector(selector) !== null);
  const topLayer = roots.flatMap((root) => [...root.querySelectorAll(':modal, :popover-open, :fullscreen')]);
  return (
    isTaught() ||
    tagsWithInternals().length > 0 ||
    location.hash !== '' ||
    topLayer.length > 1 ||
    (CSS as { highlights?: { size: number } }).highlights?.size !== 0 ||
    isSelected() ||
    some(opaque) ||
    roots.some((root) => [...root.querySelectorAll('canvas')].some(isUnread))
  );
}
