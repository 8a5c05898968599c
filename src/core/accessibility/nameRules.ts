/** Rules of names: accname 1.2, HTML-AAM. */
import { type Rule, rule } from './rule.ts';

const unread = 'Screen readers have nothing to say about it but what kind of thing it is.';

/** Rules of names, by their ids. */
export const nameRules = {
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
} as const satisfies Record<string, Rule>;
