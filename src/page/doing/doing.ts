/** Recording by doing: what a person does to a live look becomes lines of a script. */
import type { Did } from '../../core/sitting/sitting.ts';
import { whenSettled } from '../attend/hands.ts';
import { post } from '../host/host.ts';
import { append } from '../host/natives.ts';
import { recordingNow } from '../record/recording.ts';
import { hear } from './deeds.ts';
import { isOther, offersFor, type Sight, sightNow } from './seen.ts';

let end: (() => void) | null = null;
let next = 1;
let last: Did | null = null;
let before: Sight | null = null;
let changed: Did[] = [];
/** What the pointer went to last, should that turn out to have done something. */
let hovered: string | null = null;

const tell = (): void => {
  const recording = recordingNow();
  if (recording && changed.length > 0) post({ kind: 'did', look: recording.number, lines: changed });
  changed = [];
};

const note = (line: Did): void => {
  changed = changed.filter(({ id }) => id !== line.id);
  append(changed, { ...line });
};

/** Whoever does something has seen what came of what they did before. */
function lookAround(): void {
  const now = sightNow();
  if (before && last?.text && isOther(before, now)) {
    last.offers = offersFor(before, now);
    note(last);
  }
}

/** Somebody is about to do something: what they do next is another line. */
function begin(): void {
  lookAround();
  before = sightNow();
  hovered = null;
}

/** Writes a line, or gives one another text. */
function write(text: string | null, line: Did | null = null): Did {
  const written = line ?? { id: next++, text, offers: [] };
  written.text = text;
  if (text !== null) last = written;
  note(written);
  return written;
}

/** What was done has had its outcome: what there is to see now came of it. */
function settled(): void {
  if (!before) return;
  const now = sightNow();
  // The pointer alone may open what is done next to.
  if (hovered !== null && isOther(before, now)) {
    write(`hover(${hovered})`);
    hovered = null;
  }
  if (last?.text && isOther(before, now)) {
    last.offers = offersFor(before, now);
    note(last);
  }
  tell();
}

/** Begins to record what is done, or ends it. */
export function record(isOn: boolean): void {
  end?.();
  end = null;
  last = null;
  before = isOn ? sightNow() : null;
  if (!isOn) return;
  const endHearing = whenSettled(settled);
  const endDeeds = hear({
    begin,
    write,
    over(target) {
      begin();
      hovered = target;
    },
  });
  end = () => {
    endHearing();
    endDeeds();
    tell();
  };
}
