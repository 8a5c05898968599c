/** What a look has changed of what media queries see, as its moments tell it. */
import type { ChangedMedia } from '../../core/moment/moment.ts';

let changed: ChangedMedia = {};

/** Says what the look has changed so far. */
export const setChangedMedia = (media: ChangedMedia): void => {
  changed = media;
};

/** The part of a view that tells it; none when nothing is changed. */
export const changedMedia = (): { media?: ChangedMedia } =>
  Object.keys(changed).length > 0 ? { media: { ...changed } } : {};
