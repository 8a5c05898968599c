/** Whether text stays whole when it grows, and links are told from it (WCAG 2.2, 1.4). */
import type { Check } from './check.ts';
import { kindOf, ownTexts, painterOf } from './paint.ts';
import type { Scene, Seen } from './scene.ts';

/** What people set for themselves: spacing as WCAG 2.2, 1.4.12 says, and text twice as large. */
const settings = [
  {
    rule: 'text-can-be-spaced',
    css:
      '*{line-height:1.5!important;letter-spacing:.12em!important;word-spacing:.16em!important}' +
      'p{margin-bottom:2em!important}',
    what: 'With more space in it text is cut off.',
  },
  { rule: 'text-can-be-larger', css: ':root{font-size:200%!important}', what: 'At twice the size text is cut off.' },
] as const;

/** Elements that cut off what does not fit, without a way to see it. */
function cutters(scene: Scene): Element[] {
  const paintOf = painterOf(scene);
  const known = new Map<string, boolean>();
  const cuts = (seen: Seen): boolean => {
    const kind = kindOf(seen);
    const before = known.get(kind);
    if (before !== undefined) return before;
    const { style, isClippedAway } = paintOf(seen);
    const isCut = [style.overflowX, style.overflowY].some((one) => one === 'hidden' || one === 'clip');
    // Text that ends in an ellipsis ends so by intention.
    const found = isCut && style.textOverflow !== 'ellipsis' && !isClippedAway;
    known.set(kind, found);
    return found;
  };
  return scene.all.flatMap((seen) => {
    const { element, isPainted, tag } = seen;
    if (!isPainted || /^(input|textarea|select|svg|canvas|video|img|iframe)$/.test(tag)) return [];
    return cuts(seen) && (element.textContent ?? '').trim() !== '' ? [element] : [];
  });
}

const overflow = (element: Element): [number, number] => {
  const { overflowX, overflowY } = getComputedStyle(element);
  const { scrollWidth, clientWidth, scrollHeight, clientHeight } = element;
  return [
    /^(hidden|clip)$/.test(overflowX) ? scrollWidth - clientWidth : 0,
    /^(hidden|clip)$/.test(overflowY) ? scrollHeight - clientHeight : 0,
  ];
};

/** Text that people enlarge or space out: what it is cut off by then. Styles are as they were afterwards. */
const grown: Check = (scene, tell) => {
  const candidates = cutters(scene).map((element) => ({ element, before: overflow(element) }));
  if (candidates.length === 0) return;
  for (const { rule, css, what } of settings) {
    const sheet = new CSSStyleSheet();
    // What would move on to its new size would not have it yet.
    sheet.replaceSync(`${css}*{transition:none!important}`);
    // The list itself is alive: it would hold the new sheet too.
    const sheets = [...document.adoptedStyleSheets];
    document.adoptedStyleSheets = [...sheets, sheet];
    try {
      for (const { element, before } of candidates) {
        const now = overflow(element);
        if (now.some((value, i) => value > before[i]! + 4)) tell(rule, element, what, false);
      }
    } finally {
      document.adoptedStyleSheets = sheets;
    }
  }
};

const links: Check = ({ told }, tell) => {
  for (const { element, tag } of told) {
    if (tag !== 'a' || !element.hasAttribute('href')) continue;
    const around = element.parentElement;
    const isInText = around !== null && ownTexts(around).length > 0 && ownTexts(element).length > 0;
    if (!isInText) continue;
    const [own, other] = [getComputedStyle(element), getComputedStyle(around)];
    const isMarked =
      own.textDecorationLine !== 'none' ||
      own.fontWeight !== other.fontWeight ||
      own.fontStyle !== other.fontStyle ||
      own.backgroundColor !== other.backgroundColor ||
      own.borderBottomStyle !== 'none' ||
      own.display !== 'inline';
    if (!isMarked)
      tell('links-are-more-than-colour', element, 'Only its colour tells it from the text around it.', false);
  }
};

export const textChecks: Check[] = [grown, links];
