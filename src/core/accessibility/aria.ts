/**
 * What WAI-ARIA 1.2 (https://www.w3.org/TR/wai-aria-1.2/) says of roles and attributes, and ARIA in HTML of the roles
 * that elements may be given. As plain tables: lists are words with spaces between.
 */

const words = (text: string): string[] => (text === '' ? [] : text.split(' '));

type Role = {
  /** Attributes that it must have. */
  required: string[];
  /** Attributes that it may have beside those that all may have. */
  supported: string[];
  /** Roles of which one has to be in it. */
  owns: string[];
  /** Roles in one of which it has to be. */
  inside: string[];
};

const role = (required: string, supported: string, owns = '', inside = ''): Role => ({
  required: words(required),
  supported: [...words(required), ...words(supported)],
  owns: words(owns),
  inside: words(inside),
});

const field = 'disabled errormessage invalid readonly required';
const range = 'valuemax valuemin valuenow valuetext';
const item = 'disabled expanded haspopup posinset setsize';
const cell = 'colindex colspan rowindex rowspan';
const menuItems = 'menuitem menuitemcheckbox menuitemradio';
const gridCell = `${cell} disabled errormessage expanded haspopup invalid readonly required selected`;

/** Every role that an element may be given; attributes are written without `aria-`. */
export const ariaRoles: Readonly<Record<string, Role>> = {
  alert: role('', ''),
  alertdialog: role('', 'modal'),
  application: role('', 'activedescendant disabled errormessage expanded haspopup invalid'),
  article: role('', 'posinset setsize'),
  banner: role('', ''),
  blockquote: role('', ''),
  button: role('', 'disabled expanded haspopup pressed'),
  caption: role('', '', '', 'figure grid table treegrid'),
  cell: role('', cell, '', 'row'),
  checkbox: role('checked', `${field} expanded`),
  code: role('', ''),
  columnheader: role('', `${gridCell} sort`, '', 'row'),
  combobox: role('expanded', `${field} activedescendant autocomplete haspopup`),
  complementary: role('', ''),
  contentinfo: role('', ''),
  definition: role('', ''),
  deletion: role('', ''),
  dialog: role('', 'modal'),
  directory: role('', ''),
  document: role('', ''),
  emphasis: role('', ''),
  feed: role('', '', 'article'),
  figure: role('', ''),
  form: role('', ''),
  generic: role('', ''),
  grid: role('', 'activedescendant colcount disabled multiselectable readonly rowcount', 'row rowgroup'),
  gridcell: role('', gridCell, '', 'row'),
  group: role('', 'activedescendant disabled'),
  heading: role('level', ''),
  img: role('', ''),
  insertion: role('', ''),
  link: role('', 'disabled expanded haspopup'),
  list: role('', '', 'listitem'),
  listbox: role('', `${field} activedescendant expanded multiselectable orientation`, 'option group'),
  listitem: role('', 'level posinset setsize', '', 'list directory group'),
  log: role('', ''),
  main: role('', ''),
  marquee: role('', ''),
  math: role('', ''),
  menu: role('', 'activedescendant disabled orientation', `${menuItems} group`),
  menubar: role('', 'activedescendant disabled orientation', `${menuItems} group`),
  menuitem: role('', item, '', 'menu menubar group'),
  menuitemcheckbox: role('checked', item, '', 'menu menubar group'),
  menuitemradio: role('checked', item, '', 'menu menubar group'),
  meter: role('valuenow', range),
  navigation: role('', ''),
  none: role('', ''),
  note: role('', ''),
  option: role('', 'checked disabled posinset selected setsize', '', 'listbox group'),
  paragraph: role('', ''),
  presentation: role('', ''),
  progressbar: role('', range),
  radio: role('checked', 'disabled posinset setsize'),
  radiogroup: role('', `${field} activedescendant orientation`),
  region: role('', ''),
  row: role(
    '',
    'activedescendant colindex disabled expanded level posinset rowindex selected setsize',
    'cell columnheader gridcell rowheader',
    'grid rowgroup table treegrid',
  ),
  rowgroup: role('', '', 'row', 'grid table treegrid'),
  rowheader: role('', `${gridCell} sort`, '', 'row'),
  scrollbar: role('controls valuenow', `${range} disabled orientation`),
  search: role('', ''),
  searchbox: role('', `${field} activedescendant autocomplete haspopup multiline placeholder`),
  separator: role('', `${range} disabled orientation`),
  slider: role('valuenow', `${range} disabled errormessage haspopup invalid orientation readonly`),
  spinbutton: role('', `${field} ${range} activedescendant`),
  status: role('', ''),
  strong: role('', ''),
  subscript: role('', ''),
  superscript: role('', ''),
  switch: role('checked', `${field} expanded`),
  tab: role('', `${item} selected`, '', 'tablist'),
  table: role('', 'colcount rowcount', 'row rowgroup caption'),
  tablist: role('', 'activedescendant disabled multiselectable orientation', 'tab'),
  tabpanel: role('', ''),
  term: role('', ''),
  textbox: role('', `${field} activedescendant autocomplete haspopup multiline placeholder`),
  time: role('', ''),
  timer: role('', ''),
  toolbar: role('', 'activedescendant disabled orientation'),
  tooltip: role('', ''),
  tree: role('', `${field} activedescendant multiselectable orientation`, 'treeitem group'),
  treegrid: role('', `${field} activedescendant colcount multiselectable orientation rowcount`, 'row rowgroup'),
  treeitem: role('', `${item} checked level selected`, '', 'tree group'),
};

/** Roles that only sort others (WAI-ARIA 1.2, 5.3.1). */
export const abstractRoles = new Set(
  words('command composite input landmark range roletype section sectionhead select structure widget window'),
);

/** Roles of other vocabularies that browsers know: those of digital publishing, of graphics, and of drafts. */
export const isFurtherRole = (name: string): boolean =>
  /^(doc|graphics)-/.test(name) ||
  ['image', 'mark', 'suggestion', 'comment', 'sectionheader', 'sectionfooter'].includes(name);

/** Attributes that every role may have. */
export const globalAttributes = new Set(
  words(
    'atomic braillelabel brailleroledescription busy controls current describedby description details dropeffect ' +
      'flowto grabbed hidden keyshortcuts label labelledby live owns relevant roledescription',
  ),
);

/** Attributes that all roles could have until ARIA 1.2, and that work where they are not foreseen. */
export const formerlyGlobal = new Set(words('disabled errormessage haspopup invalid'));

/** Roles that have no name (WAI-ARIA 1.2, 5.2.8.6). */
export const unnameable = new Set(
  words('caption code deletion emphasis generic insertion none paragraph presentation strong subscript superscript'),
);

/** Roles that a person works with: without a name nobody knows what they do. */
export const namedWidgets = new Set(
  words(
    'checkbox combobox listbox menuitem menuitemcheckbox menuitemradio meter option progressbar radio ' +
      'searchbox slider spinbutton switch tab textbox tree treeitem',
  ),
);

/** Roles whose content is one thing for assistive technology (children presentational). */
export const wholes = new Set(
  words(
    'button checkbox img math menuitemcheckbox menuitemradio meter option progressbar radio scrollbar slider ' +
      'switch tab',
  ),
);

type Values = 'boolean' | 'tristate' | 'maybe' | 'integer' | 'number' | 'id' | 'ids' | 'text' | readonly string[];

/** What attributes may hold; `maybe` is true, false or nothing. */
export const attributeValues: Readonly<Record<string, Values>> = {
  activedescendant: 'id',
  atomic: 'boolean',
  autocomplete: words('inline list both none'),
  braillelabel: 'text',
  brailleroledescription: 'text',
  busy: 'boolean',
  checked: 'tristate',
  colcount: 'integer',
  colindex: 'integer',
  colindextext: 'text',
  colspan: 'integer',
  controls: 'ids',
  current: words('page step location date time true false'),
  describedby: 'ids',
  description: 'text',
  details: 'ids',
  disabled: 'boolean',
  dropeffect: 'text',
  errormessage: 'ids',
  expanded: 'maybe',
  flowto: 'ids',
  grabbed: 'maybe',
  haspopup: words('true false menu listbox tree grid dialog'),
  hidden: 'maybe',
  invalid: words('grammar false spelling true'),
  keyshortcuts: 'text',
  label: 'text',
  labelledby: 'ids',
  level: 'integer',
  live: words('assertive off polite'),
  modal: 'boolean',
  multiline: 'boolean',
  multiselectable: 'boolean',
  orientation: words('horizontal undefined vertical'),
  owns: 'ids',
  placeholder: 'text',
  posinset: 'integer',
  pressed: 'tristate',
  readonly: 'boolean',
  relevant: 'text',
  required: 'boolean',
  roledescription: 'text',
  rowcount: 'integer',
  rowindex: 'integer',
  rowindextext: 'text',
  rowspan: 'integer',
  selected: 'maybe',
  setsize: 'integer',
  sort: words('ascending descending none other'),
  valuemax: 'number',
  valuemin: 'number',
  valuenow: 'number',
  valuetext: 'text',
};

/** True for a value that an attribute can have. An empty one counts as if the attribute were not there. */
export function isAllowedValue(attribute: string, value: string): boolean {
  const kind = attributeValues[attribute];
  const text = value.trim();
  if (kind === undefined || text === '') return true;
  if (typeof kind !== 'string') return kind.includes(text.toLowerCase());
  switch (kind) {
    case 'boolean':
      return /^(true|false)$/i.test(text);
    case 'tristate':
      return /^(true|false|mixed|undefined)$/i.test(text);
    case 'maybe':
      return /^(true|false|undefined)$/i.test(text);
    case 'integer':
      return /^-?\d+$/.test(text);
    case 'number':
      return Number.isFinite(Number(text));
    default:
      return true;
  }
}

/** What an attribute may hold, in words. */
export function valuesInWords(attribute: string): string {
  const kind = attributeValues[attribute];
  if (kind !== undefined && typeof kind !== 'string') return kind.join(', ');
  const said: Partial<Record<string, string>> = {
    boolean: 'true or false',
    tristate: 'true, false or mixed',
    maybe: 'true or false',
    integer: 'a whole number',
    number: 'a number',
  };
  return said[kind ?? ''] ?? 'a text';
}

const pressable = 'checkbox menuitem menuitemcheckbox menuitemradio option radio switch tab treeitem';

/**
 * Roles that elements may be given beside their own (ARIA in HTML, https://www.w3.org/TR/html-aria/); elements that are
 * not named may have any.
 */
export const allowedRoles: Readonly<Record<string, Set<string>>> = {
  'a[href]': new Set(words(`button link ${pressable}`)),
  button: new Set(words(`button combobox gridcell link separator slider ${pressable}`)),
  h: new Set(words('heading none presentation tab')),
  ul: new Set(words('list directory group listbox menu menubar none presentation radiogroup tablist toolbar tree')),
  nav: new Set(words('navigation menu menubar none presentation tablist')),
  main: new Set(['main']),
  label: new Set(),
  textarea: new Set(['textbox']),
  select: new Set(words('combobox listbox menu')),
  option: new Set(['option']),
  fieldset: new Set(words('group none presentation radiogroup')),
  dialog: new Set(words('dialog alertdialog')),
  legend: new Set(),
  'input:text': new Set(words('textbox searchbox combobox spinbutton')),
  'input:checkbox': new Set(words('checkbox button menuitemcheckbox option switch')),
  'input:radio': new Set(words('radio menuitemradio')),
  'input:button': new Set(words(`button combobox gridcell link separator slider ${pressable}`)),
  'input:range': new Set(['slider']),
  'input:number': new Set(['spinbutton']),
  'input:other': new Set(),
};
