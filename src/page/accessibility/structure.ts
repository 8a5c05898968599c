/** Structure: headings, lists, tables, landmarks, language, media (HTML, WCAG 2.2 1.3). */
import { nameOf } from '../act/names.ts';
import type { Check } from './check.ts';
import { around, type Seen } from './scene.ts';

const isMade = ({ given }: Seen): boolean => given !== null;

const lists: Check = ({ told, of }, tell) => {
  for (const seen of told) {
    const { element, tag } = seen;
    if ((tag === 'ul' || tag === 'ol') && !isMade(seen)) {
      const odd = [...element.children].find(
        (child) => !/^(li|script|template)$/.test(child.localName) && of(child)?.isTold,
      );
      if (odd) tell('list-holds-items', element, `<${odd.localName}> is in it.`, !odd.localName.includes('-'));
    }
    if (tag === 'li' && !isMade(seen)) {
      const holder = around(seen, ({ tag: one }) => !one.includes('-') && one !== 'slot');
      if (!holder || !/^(ul|ol|menu)$/.test(holder.tag))
        tell(
          'item-is-in-list',
          element,
          `It is in ${holder ? `<${holder.tag}>` : 'nothing'}.`,
          holder?.given !== 'list',
        );
    }
    if (tag === 'dl' && !isMade(seen)) {
      const odd = [...element.children].find((child) => !/^(dt|dd|div|script|template)$/.test(child.localName));
      if (odd) tell('terms-are-in-order', element, `<${odd.localName}> is in it.`);
    }
    if ((tag === 'dt' || tag === 'dd') && !isMade(seen) && !element.closest('dl'))
      tell('terms-are-in-order', element, `<${tag}> is in no <dl>.`);
  }
};

function levelOf({ element, tag }: Seen): number | null {
  const said = Number(element.getAttribute('aria-level'));
  if (said > 0) return said;
  return /^h[1-6]$/.test(tag) ? Number(tag[1]) : null;
}

const headings: Check = ({ told }, tell) => {
  let before: number | null = null;
  for (const seen of told) {
    if (seen.role !== 'heading') continue;
    const level = levelOf(seen);
    if (level === null) continue;
    // A component begins where its page stands.
    if (before !== null && level > before + 1)
      tell('heading-levels-follow', seen.element, `Level ${level} comes after level ${before}.`, false);
    before = level;
  }
};

const isLayout = ({ given }: Seen): boolean => given === 'none' || given === 'presentation';

const tables: Check = ({ told }, tell) => {
  for (const seen of told) {
    const { element, tag } = seen;
    const isBare = tag === 'th' && element.textContent?.trim() === '';
    if (isBare && element.hasAttribute('scope') && nameOf(element) === '')
      tell('header-has-text', element, 'It is empty.');
    if (element.hasAttribute('scope') && (tag === 'td' || tag === 'th')) {
      const scope = element.getAttribute('scope')!.toLowerCase();
      if (tag === 'td' || !/^(col|row|colgroup|rowgroup)$/.test(scope))
        tell('scope-is-on-headers', element, tag === 'td' ? '<td> has a scope.' : `Its scope is “${scope}”.`);
    }
    if (tag === 'table' && !isLayout(seen)) {
      const cells = element.querySelectorAll('td').length;
      const rows = element.querySelectorAll('tr').length;
      const isData = cells >= 4 && rows >= 2 && !element.querySelector('table');
      if (isData && !element.querySelector('th, [role=columnheader], [role=rowheader]'))
        tell('table-has-headers', element, `It has ${cells} cells and no header.`, false);
    }
    const headers = element.getAttribute('headers')?.split(/\s+/).filter(Boolean) ?? [];
    const missing = headers.filter((id) => !element.closest('table')?.querySelector(`#${CSS.escape(id)}`));
    if (missing.length > 0) tell('headers-lead-somewhere', element, `headers names ${missing.join(', ')}.`);
  }
};

const landmarkRoles = ['navigation', 'complementary', 'banner', 'contentinfo', 'search', 'form'];

const landmarks: Check = ({ told }, tell) => {
  const mains = told.filter(({ role }) => role === 'main');
  for (const { element } of mains.slice(1)) tell('one-main', element, `There are ${mains.length} main landmarks.`);
  for (const role of landmarkRoles) {
    const all = told.filter((one) => one.role === role);
    if (all.length < 2) continue;
    const names = new Map<string, number>();
    for (const { element } of all) names.set(nameOf(element), (names.get(nameOf(element)) ?? 0) + 1);
    for (const { element } of all) {
      const name = nameOf(element);
      if (names.get(name)! > 1)
        tell('landmarks-are-told-apart', element, `${names.get(name)} ${role} landmarks are called “${name}”.`);
    }
  }
};

function isLanguage(tag: string): boolean {
  try {
    const [language] = Intl.getCanonicalLocales(tag);
    const base = language?.split('-')[0] ?? '';
    // What no list of languages has is given back as it is.
    return new Intl.DisplayNames('en', { type: 'language', fallback: 'none' }).of(base) !== undefined;
  } catch {
    return false;
  }
}

/** Tokens of autofill detail (HTML, 4.10.18.7.1). */
const autofill = new Set(
  (
    'on off name honorific-prefix given-name additional-name family-name honorific-suffix nickname username ' +
    'new-password current-password one-time-code organization-title organization street-address address-line1 ' +
    'address-line2 address-line3 address-level4 address-level3 address-level2 address-level1 country country-name ' +
    'postal-code cc-name cc-given-name cc-additional-name cc-family-name cc-number cc-exp cc-exp-month cc-exp-year ' +
    'cc-csc cc-type transaction-currency transaction-amount language bday bday-day bday-month bday-year sex url ' +
    'photo tel tel-country-code tel-national tel-area-code tel-local tel-local-prefix tel-local-suffix tel-extension ' +
    'email impp webauthn shipping billing home work mobile fax pager'
  ).split(' '),
);

const words: Check = ({ told }, tell) => {
  for (const { element } of told) {
    const lang = element.getAttribute('lang');
    if (lang !== null && lang.trim() !== '' && !isLanguage(lang.trim()))
      tell('language-exists', element, `lang is “${lang}”.`);
    if (/^(input|select|textarea)$/.test(element.localName)) {
      const tokens = (element.getAttribute('autocomplete') ?? '').trim().toLowerCase().split(/\s+/).filter(Boolean);
      const odd = tokens.filter((token) => !autofill.has(token) && !token.startsWith('section-'));
      if (odd.length > 0) tell('autocomplete-is-known', element, `“${odd.join(' ')}” is none of its tokens.`);
    }
    if (element.getAttribute('aria-invalid') === 'true') {
      const isTold = ['aria-describedby', 'aria-errormessage'].some((name) => element.getAttribute(name)?.trim());
      if (!isTold) tell('error-is-told', element, 'It is invalid, and nothing describes it.', false);
    }
  }
};

const media: Check = ({ all }, tell) => {
  for (const { element, tag, isPainted } of all) {
    if (
      tag === 'video' &&
      isPainted &&
      !(element as HTMLVideoElement).muted &&
      !element.querySelector('track[kind=captions], track[kind=subtitles], track:not([kind])')
    )
      tell('video-has-captions', element, 'It has sound and no captions.', false);
    if (
      /^(audio|video)$/.test(tag) &&
      element.hasAttribute('autoplay') &&
      !element.hasAttribute('muted') &&
      !element.hasAttribute('controls')
    )
      tell('nothing-plays-by-itself', element, 'It plays by itself, with sound, and cannot be stopped.');
    if (tag === 'marquee' || tag === 'blink') tell('nothing-blinks', element, `It is a <${tag}>.`);
  }
  if (!matchMedia('(prefers-reduced-motion: reduce)').matches) return;
  for (const { element, isPainted } of all) {
    // Captures end animations; what styles ask for is there all the same.
    const { animationName, animationIterationCount, animationDuration } = getComputedStyle(element);
    const isEndless = animationName !== 'none' && animationIterationCount.includes('infinite');
    if (isPainted && isEndless && Number.parseFloat(animationDuration) > 0)
      tell('motion-can-be-less', element, 'It moves without end although less motion is asked for.', false);
  }
};

export const structureChecks: Check[] = [lists, headings, tables, landmarks, words, media];
