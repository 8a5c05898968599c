/** What types of props may speak of that browsers bring along: the names are enough, TypeScript's own take long. */

/** Where TypeScript finds it. */
export const platformFile = '/sguardo-platform.d.ts';

/** Classes of the platform whose instances are told apart by their names. */
export const instances = [
  ...['Date', 'Map', 'Set', 'RegExp', 'ArrayBuffer', 'URL', 'URLSearchParams', 'File', 'Blob', 'FormData', 'Headers'],
  ...['AbortSignal', 'Request', 'Response', 'ReadableStream', 'FileList', 'DOMRect'],
];

const others = [
  ...[
    'EventTarget',
    'Node',
    'Element',
    'Document',
    'DocumentFragment',
    'ShadowRoot',
    'Text',
    'Event',
    'CustomEvent<T = any>',
  ],
  ...['UIEvent', 'MouseEvent', 'PointerEvent', 'KeyboardEvent', 'FocusEvent', 'InputEvent', 'TouchEvent', 'WheelEvent'],
  ...[
    'DragEvent',
    'ClipboardEvent',
    'SubmitEvent',
    'MessageEvent',
    'AnimationEvent',
    'TransitionEvent',
    'ProgressEvent',
  ],
  ...['HTMLElement', 'SVGElement', 'HTMLInputElement', 'HTMLButtonElement', 'HTMLAnchorElement', 'HTMLFormElement'],
  ...['HTMLDivElement', 'HTMLSelectElement', 'HTMLTextAreaElement', 'HTMLImageElement', 'HTMLCanvasElement'],
  ...['HTMLVideoElement', 'HTMLDialogElement', 'HTMLTableElement', 'SVGSVGElement', 'Window', 'Storage', 'WebSocket'],
  ...['CSSStyleDeclaration', 'MediaQueryList', 'Range', 'Selection', 'DataTransfer', 'AbortController', 'ImageData'],
];

const known = new Set(['Date', 'Map', 'Set', 'RegExp', 'ArrayBuffer']);

const declared = [...instances.filter((name) => !known.has(name)), ...others].map((name) => `declare class ${name} {}`);

/** Declarations of them, without what they have. */
export const platform = `${declared.join('\n')}\ninterface HTMLElementTagNameMap {}\n`;
