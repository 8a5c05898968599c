/**
 * The rules of accessibility: what each is called, how bad it is, which criterion of WCAG 2.2 stands behind it, why it
 * matters and what to do. How a page is found to break them is in src/page/accessibility; contrast is measured here.
 */

export const severities = ['severe', 'moderate', 'minor'] as const;

/** `severe` keeps people from using something, `moderate` makes it hard, `minor` is untidy. */
export type Severity = (typeof severities)[number];

export type Rule = {
  severity: Severity;
  /** Of WCAG 2.2, or null for what only WAI-ARIA or HTML ask. */
  criterion: string | null;
  title: string;
  why: string;
  fix: string;
};

const rule = (severity: Severity, criterion: string | null, title: string, why: string, fix: string): Rule => ({
  severity,
  criterion,
  title,
  why,
  fix,
});

const unread = 'Screen readers have nothing to say about it but what kind of thing it is.';
const ignored = 'Browsers ignore it, so what was meant is not told.';
const broken = 'Assistive technology relies on that structure to tell people where they are.';

export const rules = {
  // Names: accname 1.2, HTML-AAM.
  'picture-has-text': rule(
    'severe',
    '1.1.1',
    'Pictures have a text',
    unread,
    'Add alt with what it shows, or alt="" if it is only decoration.',
  ),
  'picture-text-is-no-file': rule(
    'moderate',
    '1.1.1',
    'The text of a picture is not a file name',
    'A file name says nothing of what is shown.',
    'Say what the picture shows.',
  ),
  'drawing-has-text': rule(
    'severe',
    '1.1.1',
    'Drawings with role img have a name',
    unread,
    'Add <title> or aria-label, or aria-hidden="true" if it is only decoration.',
  ),
  'image-button-has-text': rule(
    'severe',
    '1.1.1',
    'Image buttons have a text',
    unread,
    'Add alt with what the button does.',
  ),
  'area-has-text': rule('severe', '2.4.4', 'Areas of image maps have a text', unread, 'Add alt with where it leads.'),
  'object-has-text': rule(
    'moderate',
    '1.1.1',
    'Embedded objects have a text',
    unread,
    'Give it content, or aria-label.',
  ),
  'button-has-name': rule('severe', '4.1.2', 'Buttons have a name', unread, 'Put text in it, or add aria-label.'),
  'link-has-name': rule('severe', '2.4.4', 'Links have a name', unread, 'Put text in it, or add aria-label.'),
  'field-has-label': rule(
    'severe',
    '4.1.2',
    'Fields have a label',
    'People cannot know what to enter.',
    'Add <label for>, or aria-label.',
  ),
  'label-is-visible': rule(
    'moderate',
    '3.3.2',
    'Fields are not labelled by title or placeholder alone',
    'A placeholder goes away as soon as somebody types, and titles are seen by few.',
    'Add a visible <label>.',
  ),
  'widget-has-name': rule(
    'severe',
    '4.1.2',
    'Widgets have a name',
    unread,
    'Put text in it, or add aria-label or aria-labelledby.',
  ),
  'dialog-has-name': rule(
    'moderate',
    '4.1.2',
    'Dialogs have a name',
    'It is read out when the dialog opens.',
    'Point aria-labelledby at its heading, or add aria-label.',
  ),
  'frame-has-name': rule('moderate', '4.1.2', 'Frames have a title', unread, 'Add title with what is in it.'),
  'group-has-name': rule(
    'minor',
    '1.3.1',
    'Groups of fields have a name',
    'The question that radio buttons answer is not read out.',
    'Add <legend>, or aria-label.',
  ),
  'region-has-name': rule(
    'minor',
    '1.3.1',
    'Regions have a name',
    'Without one it is no landmark.',
    'Add aria-label or aria-labelledby.',
  ),
  'tabpanel-has-name': rule(
    'minor',
    '4.1.2',
    'Tab panels have a name',
    'People do not hear which tab they are in.',
    'Point aria-labelledby at its tab.',
  ),
  'name-holds-what-is-seen': rule(
    'moderate',
    '2.5.3',
    'The name holds the text that is seen',
    'People who speak to their computer say what they see.',
    'Let the name begin with the visible text.',
  ),
  'same-name-same-place': rule(
    'minor',
    '2.4.4',
    'Links of the same name lead to the same place',
    'In a list of links they cannot be told apart.',
    'Say in each where it leads.',
  ),
  'heading-has-text': rule(
    'moderate',
    '2.4.6',
    'Headings have a text',
    'An empty heading is read out all the same.',
    'Put text in it, or take it away.',
  ),
  'summary-has-text': rule('severe', '4.1.2', 'Summaries of details have a text', unread, 'Put text in <summary>.'),

  // Roles and attributes: WAI-ARIA 1.2, ARIA in HTML.
  'role-exists': rule('moderate', '4.1.2', 'Roles are those of WAI-ARIA', ignored, 'Correct the role, or remove it.'),
  'role-is-concrete': rule(
    'moderate',
    '4.1.2',
    'Abstract roles are not used',
    ignored,
    'Use a role that stands for something.',
  ),
  'role-fits-element': rule(
    'moderate',
    '4.1.2',
    'Elements have a role that fits them',
    'Keyboard and state of the element do not fit that role.',
    'Use another element, or remove the role.',
  ),
  'role-says-more': rule('minor', null, 'Roles are not redundant', 'It has that role by itself.', 'Remove the role.'),
  'role-has-its-states': rule(
    'severe',
    '4.1.2',
    'Roles have the states that they need',
    'Nobody hears whether it is on or open, or how far it is.',
    'Add the attribute, and keep it up to date.',
  ),
  'attribute-exists': rule(
    'moderate',
    '4.1.2',
    'aria- attributes are those of WAI-ARIA',
    ignored,
    'Correct the name of the attribute.',
  ),
  'attribute-has-a-value': rule(
    'moderate',
    '4.1.2',
    'aria- attributes hold what they can hold',
    ignored,
    'Use one of the values of the attribute.',
  ),
  'attribute-fits-role': rule(
    'moderate',
    '4.1.2',
    'aria- attributes fit the role',
    'Assistive technology does not tell it for that role.',
    'Remove the attribute, or use another role.',
  ),
  'nameless-has-no-name': rule(
    'moderate',
    '4.1.2',
    'Elements without a role are not named',
    'aria-label is not read out for plain elements.',
    'Give it a role, or put the text where it can be read.',
  ),
  'reference-leads-somewhere': rule(
    'severe',
    '4.1.2',
    'aria- references lead to elements',
    'A name or description that is not there is not read out.',
    'Correct the id, or render the element.',
  ),
  'children-are-there': rule(
    'severe',
    '1.3.1',
    'Widgets have the parts they need',
    broken,
    'Give the parts their roles.',
  ),
  'parent-is-there': rule(
    'severe',
    '1.3.1',
    'Parts of widgets are in the widget',
    broken,
    'Put it into an element with that role.',
  ),
  'hidden-is-not-focusable': rule(
    'severe',
    '4.1.2',
    'Nothing hidden from assistive technology can have focus',
    'The focus goes where nothing is read out.',
    'Take it out of the tab order, or do not hide it.',
  ),
  'presentation-is-inert': rule(
    'moderate',
    '4.1.2',
    'Elements with role none cannot have focus',
    'Browsers ignore role none on what can have the focus.',
    'Remove the role.',
  ),
  'controls-are-not-nested': rule(
    'severe',
    '4.1.2',
    'Controls are not in other controls',
    'The inner one cannot be reached, or is not told.',
    'Put them side by side.',
  ),
  'id-is-unique': rule(
    'moderate',
    '4.1.1',
    'Ids that something refers to are unique',
    'The reference leads to the first one.',
    'Give each an id of its own, for example with useId.',
  ),
  'label-leads-somewhere': rule(
    'moderate',
    '1.3.1',
    'Labels belong to a field',
    'Clicking it does nothing, and no field is named by it.',
    'Correct for, or put the field into the label.',
  ),
  'accesskey-is-unique': rule(
    'minor',
    null,
    'Access keys are unique',
    'Only one of them is reached.',
    'Use each key once.',
  ),

  // Structure.
  'list-holds-items': rule('moderate', '1.3.1', 'Lists hold list items', broken, 'Put what is in it into <li>.'),
  'item-is-in-list': rule('moderate', '1.3.1', 'List items are in lists', broken, 'Put it into <ul> or <ol>.'),
  'terms-are-in-order': rule(
    'minor',
    '1.3.1',
    'Description lists hold terms and descriptions',
    broken,
    'Use <dt> and <dd>, in <div>s at most.',
  ),
  'heading-levels-follow': rule(
    'minor',
    '1.3.1',
    'Heading levels leave none out',
    'People who go from heading to heading look for what is missing.',
    'Use the next level.',
  ),
  'header-has-text': rule(
    'minor',
    '1.3.1',
    'Header cells have a text',
    'Cells are read out with their headers.',
    'Put text in it, or make it a <td>.',
  ),
  'table-has-headers': rule(
    'moderate',
    '1.3.1',
    'Tables of data have headers',
    'Cells are read out without what they mean.',
    'Use <th scope>, or role="presentation" where it is layout.',
  ),
  'headers-lead-somewhere': rule(
    'moderate',
    '1.3.1',
    'headers of cells lead to cells of the table',
    broken,
    'Correct the ids.',
  ),
  'scope-is-on-headers': rule(
    'minor',
    '1.3.1',
    'scope is on header cells, and says row or column',
    ignored,
    'Use <th scope="col"> or scope="row".',
  ),
  'landmarks-are-told-apart': rule(
    'minor',
    '1.3.1',
    'Landmarks of one kind have names of their own',
    'In a list of landmarks they cannot be told apart.',
    'Add aria-label to each.',
  ),
  'one-main': rule(
    'moderate',
    '1.3.1',
    'There is one main landmark',
    'People jump to it to skip what repeats.',
    'Keep one <main>.',
  ),
  'language-exists': rule(
    'moderate',
    '3.1.2',
    'lang names a language',
    'It is read out in the wrong voice.',
    'Use a language tag such as en or it-CH.',
  ),
  'autocomplete-is-known': rule(
    'moderate',
    '1.3.5',
    'autocomplete holds tokens of HTML',
    'Browsers cannot fill it in.',
    'Use a token such as email or postal-code.',
  ),
  'video-has-captions': rule(
    'moderate',
    '1.2.2',
    'Videos have captions',
    'People who cannot hear it miss what is said.',
    'Add <track kind="captions">, or muted where nothing is said.',
  ),
  'nothing-plays-by-itself': rule(
    'moderate',
    '1.4.2',
    'Nothing plays sound by itself',
    'It talks over screen readers.',
    'Remove autoplay, or add muted or controls.',
  ),
  'nothing-blinks': rule(
    'moderate',
    '2.2.2',
    'Nothing blinks or scrolls by itself',
    'Many cannot read past it, or at all.',
    'Use plain text.',
  ),
  'motion-can-be-less': rule(
    'moderate',
    '2.3.3',
    'Motion stops for people who ask for less',
    'It makes some people ill.',
    'Stop it within @media (prefers-reduced-motion: reduce).',
  ),
  'error-is-told': rule(
    'moderate',
    '3.3.1',
    'Invalid fields say why',
    'People hear that something is wrong and not what.',
    'Point aria-describedby or aria-errormessage at the message.',
  ),

  // Keyboard and pointer.
  'tab-order-is-natural': rule(
    'moderate',
    '2.4.3',
    'No tabindex above 0',
    'The focus jumps about.',
    'Use 0 or -1, and the order of the page.',
  ),
  'widget-can-have-focus': rule(
    'severe',
    '2.1.1',
    'Widgets can have focus',
    'Nobody can use it with the keyboard.',
    'Use <button>, or add tabindex="0" and keys.',
  ),
  'click-is-not-all': rule(
    'severe',
    '2.1.1',
    'What can be clicked can be reached with Tab',
    'Nobody can use it with the keyboard, and it is not read out as something to press.',
    'Use <button> or <a href>.',
  ),
  'link-has-address': rule(
    'moderate',
    '2.1.1',
    'Links have an address',
    'Without href it is no link, and the keyboard does not reach it.',
    'Add href, or use <button>.',
  ),
  'target-is-large': rule(
    'moderate',
    '2.5.8',
    'Targets are 24 by 24 pixels, or far enough apart',
    'People with unsteady hands hit the neighbour.',
    'Make it larger, or add space around it.',
  ),
  'focus-is-not-lost': rule(
    'moderate',
    '2.4.3',
    'The focus is not lost',
    'Whoever uses the keyboard starts again at the top of the page.',
    'Move the focus to what comes next.',
  ),

  // By Tab presses, where every step is looked at.
  'focus-is-visible': rule(
    'severe',
    '2.4.7',
    'The focus can be seen',
    'Whoever uses the keyboard does not know where they are.',
    'Leave the outline as it is, or give :focus-visible another one.',
  ),
  'tab-leads-on': rule(
    'severe',
    '2.1.2',
    'Tab leads on',
    'Whoever uses the keyboard is stuck.',
    'Let Tab and Shift+Tab go to what comes next, or say how to get out.',
  ),
  'tab-reaches-all': rule(
    'severe',
    '2.1.1',
    'Tab reaches everything',
    'Nobody can use it with the keyboard.',
    'See what takes the focus away before Tab comes to it.',
  ),
  'tab-follows-page': rule(
    'moderate',
    '2.4.3',
    'Tab follows the page',
    'The focus jumps about.',
    'Put things in the document in the order in which they are shown.',
  ),

  // Text.
  'text-has-contrast': rule(
    'severe',
    '1.4.3',
    'Text has enough contrast',
    'Many cannot read it.',
    'Make the text darker or lighter, or what is behind it.',
  ),
  'text-can-be-spaced': rule(
    'moderate',
    '1.4.12',
    'Text stays whole with more spacing',
    'People who set their own spacing lose the part that is cut off.',
    'Let the box grow: no fixed heights, no overflow: hidden.',
  ),
  'text-can-be-larger': rule(
    'moderate',
    '1.4.4',
    'Text stays whole at twice its size',
    'People who enlarge text lose the part that is cut off.',
    'Let the box grow, and use rem or em for its sizes.',
  ),
  'links-are-more-than-colour': rule(
    'moderate',
    '1.4.1',
    'Links in text differ by more than colour',
    'Not everybody sees that colour.',
    'Underline them.',
  ),
} as const satisfies Record<string, Rule>;

export type RuleId = keyof typeof rules;

export const isRule = (text: string): text is RuleId => Object.hasOwn(rules, text);

export const ruleOf = (id: RuleId): Rule => rules[id];

/** Where a criterion is explained. */
export const criterionUrl = (criterion: string): string => `https://www.w3.org/TR/WCAG22/#${anchors[criterion] ?? ''}`;

const anchors: Readonly<Record<string, string>> = {
  '1.1.1': 'non-text-content',
  '1.2.2': 'captions-prerecorded',
  '1.3.1': 'info-and-relationships',
  '1.3.5': 'identify-input-purpose',
  '1.4.1': 'use-of-color',
  '1.4.2': 'audio-control',
  '1.4.3': 'contrast-minimum',
  '1.4.4': 'resize-text',
  '1.4.12': 'text-spacing',
  '2.1.1': 'keyboard',
  '2.1.2': 'no-keyboard-trap',
  '2.2.2': 'pause-stop-hide',
  '2.3.3': 'animation-from-interactions',
  '2.4.3': 'focus-order',
  '2.4.4': 'link-purpose-in-context',
  '2.4.6': 'headings-and-labels',
  '2.4.7': 'focus-visible',
  '2.5.3': 'label-in-name',
  '2.5.8': 'target-size-minimum',
  '3.1.2': 'language-of-parts',
  '3.3.1': 'error-identification',
  '3.3.2': 'labels-or-instructions',
  '4.1.1': 'parsing',
  '4.1.2': 'name-role-value',
};
