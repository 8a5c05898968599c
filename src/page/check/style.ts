/** Computed styles as people write them: colours in any notation, lengths in any unit, custom properties. */
import { fail } from '../../core/problem/problem.ts';
import { matches } from '../../core/value/equal.ts';
import type { Name } from '../../language/target.ts';
import { colourOf } from './colour.ts';

/** `backgroundColor` is written `background-color` in a sheet. */
const propertyName = (name: string): string =>
  name.startsWith('--') ? name : name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);

const pixelsOf = (element: Element): number => Number.parseFloat(getComputedStyle(element).fontSize);

/** How many pixels a relative unit is. */
const relative: Record<string, (element: Element) => number> = {
  em: pixelsOf,
  rem: () => pixelsOf(document.documentElement),
  vw: () => innerWidth / 100,
  vh: () => innerHeight / 100,
};

/** A length in pixels, or a bare number; null for what is neither. */
function lengthOf(text: string, element: Element): number | null {
  const found = /^([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)([a-z]*)$/i.exec(text);
  if (!found) return null;
  const [, number, unit = ''] = found;
  const own = relative[unit.toLowerCase()];
  if (own) return Number(number) * own(element);
  if (unit === '') return Number(number);
  try {
    return (CSSStyleValue.parse('width', text) as CSSUnitValue).to('px').value;
  } catch {
    return null;
  }
}

/** Parts of a value, functions whole. */
const partsOf = (value: string): string[] => value.match(/[^\s,/()]*\((?:[^()]|\([^()]*\))*\)|[^\s,/]+|[,/]/g) ?? [];

/** Custom properties as they are at an element. */
const filledIn = (value: string, element: Element): string =>
  value.replace(/var\(\s*(--[\w-]+)\s*(?:,([^()]*))?\)/g, (_, name: string, fallback = '') =>
    (getComputedStyle(element).getPropertyValue(name).trim() || fallback.trim()).trim(),
  );

function isSamePart(a: string, b: string, element: Element): boolean {
  if (a.toLowerCase() === b.toLowerCase()) return true;
  const [one, other] = [lengthOf(a, element), lengthOf(b, element)];
  if (one !== null && other !== null) return Math.abs(one - other) < 0.02;
  const [colour, another] = [colourOf(a), colourOf(b)];
  return colour !== null && another !== null && colour.every((value, i) => Math.abs(value - another[i]!) <= 1);
}

/** A value as the engine writes it, with shorthands folded; null for one that the property cannot have. */
function asWritten(property: string, value: string): string | null {
  if (property.startsWith('--')) return value;
  const probe = document.createElementNS('http://www.w3.org/1999/xhtml', 'i').style;
  probe.setProperty(property, value);
  return probe.getPropertyValue(property) || null;
}

/** The computed value of a property. */
export const styleOf = (element: Element, property: string): string =>
  getComputedStyle(element).getPropertyValue(propertyName(property)).trim();

/** True when a property is computed to a value. @throws ProblemError `bad-step` for no property or no value of it */
export function hasStyle(element: Element, property: string, wanted: Name | number): boolean {
  const name = propertyName(property);
  const actual = styleOf(element, property);
  if (!name.startsWith('--') && !CSS.supports(name, 'inherit'))
    fail('bad-step', {
      what: `There is no style property “${property}”.`,
      remedy: "Name one as CSS does: hasStyle('background-color', 'tomato')",
    });
  if (wanted instanceof RegExp) return matches(wanted, actual);
  const value = filledIn(String(wanted), element);
  const written = asWritten(name, value);
  if (written === null)
    fail('bad-step', {
      what: `${name} cannot be “${wanted}”.`,
      remedy: 'Write a value as in a style sheet, with its unit: 12px, 1.5rem, #1f6feb, var(--tone).',
    });
  const isSame = (text: string): boolean => {
    const [parts, others] = [partsOf(actual), partsOf(text)];
    return parts.length === others.length && parts.every((part, i) => isSamePart(part, others[i]!, element));
  };
  return isSame(written!) || isSame(value);
}
