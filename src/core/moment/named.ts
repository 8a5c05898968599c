/**
 * Elements of a moment as targets name them: by role and name, by text, by mark. Names are those that follow from
 * markup alone (accname 1.2 without styles): good enough to offer, not to decide.
 */
import { elementRoles } from '../accessibility/elements.ts';
import { readable } from '../text/folded.ts';
import { type ElementEntry, isText, type Moment } from './moment.ts';

export type Named = { node: number; role: string | null; name: string; mark: string | null };

/** Roles of elements, those included that mean little to a person without their place. */
const roles: Readonly<Record<string, string>> = {
  ...elementRoles,
  footer: 'contentinfo',
  header: 'banner',
  li: 'listitem',
  ol: 'list',
  th: 'columnheader',
  ul: 'list',
};

const inputRoles: Readonly<Record<string, string>> = {
  button: 'button',
  checkbox: 'checkbox',
  image: 'button',
  number: 'spinbutton',
  radio: 'radio',
  range: 'slider',
  reset: 'button',
  search: 'searchbox',
  submit: 'button',
};

function roleOf({ tag, attrs = {} }: ElementEntry): string | null {
  const given = attrs.role?.trim().split(/\s+/)[0];
  if (given) return given;
  if (tag === 'a') return attrs.href === undefined ? null : 'link';
  if (tag === 'img') return attrs.alt === '' ? null : 'img';
  if (tag === 'select') return 'multiple' in attrs ? 'listbox' : 'combobox';
  if (tag !== 'input') return roles[tag] ?? null;
  const type = attrs.type ?? 'text';
  return type === 'hidden' ? null : (inputRoles[type] ?? 'textbox');
}

/** Roles that are called by what is in them (WAI-ARIA 1.2, 5.2.8.5). */
export const namedByContent: ReadonlySet<string> = new Set(
  (
    'button cell checkbox columnheader gridcell heading link menuitem menuitemcheckbox menuitemradio option ' +
    'radio row rowheader switch tab tooltip treeitem'
  ).split(' '),
);

const unseen = new Set(['script', 'style', 'template', 'head', 'title', 'link', 'meta']);

/** Everything of a moment that a target can name, in the order of the document. `mark` is the attribute of marks. */
export function namedIn({ nodes }: Moment, root: number, mark: string): Named[] {
  const byId = new Map<string, number>();
  const labels = new Map<string, string>();
  const entry = (id: number): ElementEntry | null => {
    const found = nodes[id];
    return found && !isText(found) ? found : null;
  };
  const kidsOf = ({ kids = [], shadow }: ElementEntry): number[] => [...(shadow?.kids ?? []), ...kids];
  const textOf = (id: number): string => {
    const found = nodes[id];
    if (!found) return '';
    if (isText(found)) return found.text;
    if (unseen.has(found.tag) || found.attrs?.['aria-hidden'] === 'true') return '';
    const own = found.attrs?.['aria-label'] ?? (found.tag === 'img' ? (found.attrs?.alt ?? '') : '');
    return own || kidsOf(found).map(textOf).join(' ');
  };
  const gather = (id: number, label: string | null): void => {
    const found = entry(id);
    if (!found) return;
    const { tag, attrs = {} } = found;
    if (attrs.id) byId.set(attrs.id, id);
    const own = tag === 'label' ? readable(textOf(id)) : label;
    if (tag === 'label' && attrs.for) labels.set(attrs.for, own ?? '');
    if (own && /^(input|select|textarea|button|meter|progress)$/.test(tag)) within.set(id, own);
    for (const kid of kidsOf(found)) gather(kid, own);
  };
  const within = new Map<number, string>();
  gather(root, null);
  const nameOf = (id: number, found: ElementEntry, role: string | null): string => {
    const { attrs = {} } = found;
    const ids = attrs['aria-labelledby']?.split(/\s+/) ?? [];
    const referred = readable(ids.map((one) => textOf(byId.get(one) ?? -1)).join(' '));
    if (referred) return referred;
    if (attrs['aria-label']?.trim()) return readable(attrs['aria-label']);
    const label = (attrs.id && labels.get(attrs.id)) || within.get(id);
    if (label && !/^(button|link)$/.test(role ?? '')) return label;
    if (attrs.alt) return readable(attrs.alt);
    if (found.tag === 'input' && /^(submit|reset|button)$/.test(attrs.type ?? '')) return readable(attrs.value ?? '');
    const content = role !== null && namedByContent.has(role) ? readable(textOf(id)) : '';
    return content || readable(attrs.title ?? attrs.placeholder ?? '');
  };
  const found: Named[] = [];
  const visit = (id: number): void => {
    const element = entry(id);
    if (
      !element ||
      unseen.has(element.tag) ||
      element.attrs?.['aria-hidden'] === 'true' ||
      'hidden' in (element.attrs ?? {})
    )
      return;
    const role = roleOf(element);
    const marked = element.attrs?.[mark] ?? null;
    if (role !== null || marked !== null) found.push({ node: id, role, name: nameOf(id, element, role), mark: marked });
    for (const kid of kidsOf(element)) visit(kid);
  };
  visit(root);
  return found;
}

/** The texts that stand in a moment, each once, in the order of the document. */
export function textsIn({ nodes }: Moment, root: number): string[] {
  const found = new Set<string>();
  const visit = (id: number): void => {
    const entry = nodes[id];
    if (!entry) return;
    if (isText(entry)) {
      const text = readable(entry.text);
      if (text !== '' && text.length <= 80) found.add(text);
    } else if (!unseen.has(entry.tag))
      for (const kid of [...(entry.shadow?.kids ?? []), ...(entry.kids ?? [])]) visit(kid);
  };
  visit(root);
  return [...found];
}
