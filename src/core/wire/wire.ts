/**
 * What a page and its host say to one another, as JSON. The page is never trusted: what it says is believed only in the
 * shapes of `shapes.ts`, with the token that its host gave it, and about the look that it runs.
 */
import type { Allowance } from '../picture/allowance.ts';
import type { Allowing, Comparing } from '../settings/comparing.ts';
import type { Mutation } from '../challenge/mutation.ts';
import type { ChangedMedia } from '../moment/moment.ts';
import type { Budget } from '../timing/budget.ts';
import type { Audit } from '../accessibility/finding.ts';
import type { Pointed } from './live.ts';
import type { Given } from '../props/given.ts';
import type { Problem } from '../problem/problem.ts';
import type { OptionList, Completion, Did, Orders, Steering, Stop, TriedLine } from '../sitting/sitting.ts';
import type { Box, TimelineEvent } from '../timeline/timeline.ts';

export type MouseButton = 'left' | 'middle' | 'right' | 'none';

/** Trusted input that a page asks its host to send. Positions are CSS pixels of the viewport. */
export type InputRequest =
  | { kind: 'move'; x: number; y: number; button: MouseButton; modifiers: number }
  | { kind: 'down' | 'up'; x: number; y: number; button: MouseButton; clicks: number; modifiers: number }
  | { kind: 'wheel'; x: number; y: number; by: [number, number]; modifiers: number }
  /** Fingers: where they are now; `after` is how long after the last one, in milliseconds. */
  | { kind: 'touch'; phase: 'start' | 'move' | 'end'; points: [number, number][]; after: number; modifiers: number }
  /** A key: pressed and let go, or one of both; `repeat` for one that is held. */
  | { kind: 'key' | 'keydown' | 'keyup'; key: string; modifiers: number; repeat?: boolean };

/** A file to hand to a page: one of the project by its path from the root, or one made in place. */
export type GivenFile = { path: string } | { name: string; base64: string };

/** What a person carries: a selection, files. */
export type Load = { text: string | null; html: string | null; files: GivenFile[] };

/** What a look may change of the world around its page; what it does not name stays. All goes back when it ends. */
export type Surroundings = ChangedMedia & {
  viewport?: [number, number];
  online?: boolean;
  /** Latitude, longitude and accuracy in metres; null: the place cannot be found out. */
  place?: [number, number, number] | null;
  /** By the names of the Permissions specification. */
  permissions?: Record<string, 'granted' | 'denied'>;
  /** Addresses of pictures, fonts and the like that the look answers, with `*` for any text. */
  answered?: string[];
};

/** A part of a page that is compared otherwise: boxes in CSS pixels of the page, and ids of what is left out. */
export type PageAllowance = Allowance & { nodes: number[] };

/** A picture that a page asks its host to take: `beyond` when the clip reaches outside the viewport. */
export type CaptureAsk = {
  do: 'capture';
  name: string;
  clip: Box;
  beyond: boolean;
  step: number;
  moment: number;
  /** Ids of nodes that are not rendered. */
  unseen: number[];
  /** What of it is compared otherwise. */
  allowed: PageAllowance[];
  /** The page may show something that its moment does not tell of. */
  opaque: boolean;
};

/** What a page can ask its host to do while it waits. */
export type Ask =
  | { do: 'input'; events: InputRequest[] }
  /** Carries what is being dragged, or a load from outside, to a point, and drops it there if `drops` says so. */
  | { do: 'carry'; point: [number, number]; load: Load | null; modifiers: number; drops: boolean }
  /** Sends input that opens a file chooser, and chooses. @throws `noChooser` */
  | { do: 'choose'; events: InputRequest[]; files: GivenFile[] }
  /** Puts a load on the clipboard and presses Control+V. */
  | { do: 'paste'; load: Load }
  /** Whether a value conforms to a JSON Schema. @throws what does not, one thing a line */
  | { do: 'conform'; schema: unknown; value: unknown }
  | { do: 'surround'; with: Surroundings }
  /** Looks at a part of the page; with `isAgain` once more. @throws `asBefore` when it is as it was then */
  | { do: 'glance'; clip: Box; isAgain: boolean }
  /** Which of the elements that the page holds out look the same when all of them seem to have the focus. */
  | { do: 'focuses'; clips: Box[] }
  /** What is known of an equal page at the end of a look; `beside` is what moments do not hold of it. */
  | { do: 'recall'; beside: string }
  /** The look has ended like this, whatever comes of what is tried on its page from here on. */
  | { do: 'conclude'; report: LookReport }
  | { do: 'nothing' }
  | CaptureAsk;

/** What asks fail with that their page can tell more of. */
export const askFailure = {
  noChooser: 'no-chooser',
  oneFile: 'one-file',
  noDrag: 'no-drag',
  noFile: 'no-file ',
  asBefore: 'as-before',
  alike: 'alike ',
  knownMarkup: 'known-markup',
  knownFocus: 'known-focus',
  knownAll: 'known-all',
} as const;

/** A request that a page made and that waits for what becomes of it. */
export type PausedRequest = {
  id: string;
  method: string;
  url: string;
  headers: Record<string, string>;
  body: string | null;
  /** No script has asked for it, but the page itself: for a picture, a font, a sheet. */
  isFile: boolean;
};

/** A stubbed reply to a request; its body is a text, bytes, or a file of the project by its path from the root. */
export type Reply = {
  status: number;
  headers: Record<string, string>;
  body: string | { base64: string } | { file: string };
};

/** What becomes of a request: a reply, the real network, or no connection. */
export type RequestFate = Reply | 'proceed' | 'refuse';

/** A message of a page; `token` is the one that its host gave it. */
export type FromPage = { token: string } & (
  | { kind: 'ask'; look: number; id: number; ask: Ask }
  | { kind: 'events'; look: number; events: TimelineEvent[] }
  | { kind: 'answer'; request: string; reply: RequestFate }
  /** The script of an attended look has stopped. */
  | { kind: 'stopped'; look: number; stop: Stop }
  /** Somebody has done something to an attended look. */
  | { kind: 'did'; look: number; lines: Did[] }
  /** A list of options was opened by hand. */
  | { kind: 'asks'; look: number; choice: OptionList }
  /** It watches a page that does not come to rest, which will not take for ever. */
  | { kind: 'watches' }
);

/** Files that a page shows or runs, such as pictures, style sheets, scripts and fonts. */
export type Files = {
  /** How many are on their way. */
  loading: number;
  /** How many have been asked for since the window was opened. */
  asked: number;
};

/** A request of the page, as the host hands it back to the page to be answered. */
export type AskedRequest = PausedRequest & {
  /** It is for a file of the bundle. */
  asset: boolean;
};

/** One look to run. */
export type LookRequest = {
  look: string;
  /**
   * Counts the looks that this window has run; everything that the page says carries it, so that late words are told
   * apart.
   */
  number: number;
  patience: number;
  /** How far time is moved on before a capture, as long as anything waits that would happen by itself. */
  settle: number;
  /** `real`: time is moved on no faster than a clock on the wall. */
  clock: 'look' | 'real';
  /** What the clock shows when the look begins, in milliseconds since 1970. */
  now: number;
  scheme: 'light' | 'dark';
  /** Origins that requests may reach for real. */
  network: string[];
  /** `on`, but where recording itself is measured: `off`, or `photographed` to take a screenshot after every step. */
  recording: 'on' | 'off' | 'photographed';
  /** Whatever can happen in real time gets more of it before the look's own time moves on. */
  isLate: boolean;
  /** The attribute that elements are marked with for looks. */
  markAttribute: string;
  /** Whether a request that nobody answers fails its look, or is noted. */
  unanswered: 'fail' | 'note';
  /** What fails the look when the console gets it as an error or a warning. */
  failsOn: { source: string; flags: string }[];
  /** What of captures is compared otherwise in the whole project. */
  allowed: Allowing[];
  online: boolean;
  /** When its accessibility is looked at: at its end, or after every step; null for not at all. */
  audit: 'end' | 'steps' | null;
  /** How somebody attends it, who can stop its script; null where nobody does. */
  attended: Orders | null;
  /** How long it waits before each step, in milliseconds of the clock on the wall. */
  pace: number;
  /** It is left on the page when it has ended, to be looked at: the document is not used again. */
  stays: boolean;
  /** Its steps say in the browser's trace when they begin and end. */
  timed: boolean;
  /** What is made wrong while it runs, to see whether it notices; null for nothing. */
  mutation: Mutation | null;
};

/** What a look came to inside its page. */
export type LookReport = {
  outcome: 'passed' | 'failed' | 'broken';
  problem: Problem | null;
  /** Stack of the error behind the problem, for the source map. */
  stack: string | null;
  /** What a person should know although it changed no verdict. */
  notes: string[];
  /** What the look did to its document that could not be taken back, in words: the document is not used again. */
  left: string[];
  /** What its accessibility lacks; null where nobody has looked. */
  audit: Audit | null;
};

/** A look file to which a document is turned: its script, and the sheets that it shows, by their address paths. */
export type LookScript = { script: string; styles: string[] };

/** What a look file's document says when it is asked for its looks. */
export type FileReport =
  | {
      looks: {
        look: string;
        hasScript: boolean;
        after: string | null;
        /** What the file says of this look beside the configuration; null where it says nothing. */
        isolate: boolean | null;
        timeLimit: number | null;
        dependsOn: string[];
        reuse: boolean;
        tags: string[];
        /** Why it is not run; null for one that is. */
        skip: string | null;
        only: boolean;
        /** Names of the environments that it is for; null for all. */
        environments: string[] | null;
        /** What is compared; null for what the configuration says. */
        compares: Comparing | null;
        /** Short values among its props. */
        given: Given;
        /** What it is to look like: a path or an address; null where that is not said. */
        reference: string | null;
        /** What it may cost; null where that is not said. */
        budget: Budget | null;
      }[];
      /** Evaluating it has left nothing in the document but its style sheets: other look files may come after it. */
      isPlain: boolean;
      /** Address paths of those sheets, in their order. */
      styles: string[];
    }
  | { problem: Problem; stack: string | null };

/** The global functions of a page through which its host calls it; all but the first want the token given there. */
export type PageGlobal = {
  /** Evaluates the look file, at the time `now`, as looks begin. Nothing of the project runs before. */
  file(token: string, now: number): Promise<FileReport>;
  /** Evaluates the frame and nothing else, so that the document can be turned to any look file. */
  warm(token: string, now: number): Promise<boolean>;
  /**
   * Turns the document to another look file, as if it had been loaded for it: null when it cannot be, since the files
   * and looks so far have left more than nothing.
   */
  turn(token: string, to: LookScript, now: number): Promise<FileReport | null>;
  run(token: string, request: LookRequest): Promise<LookReport>;
  /** What is replaced now of the platform's functions, by name. */
  replaced(): string[];
  /** What was asked for is done, and these are the files that the page had asked for before it asked. */
  reply(token: string, id: number, error: string | null, files: Files): void;
  /** The elements that are held out to be seen with the focus. */
  heldOut(token: string): readonly unknown[];
  /** Ends transitions that are on their way. */
  settle(token: string): void;
  request(token: string, request: AskedRequest): void;
  /** Tells an attended look what somebody wants. */
  steer(token: string, steering: Steering): Promise<void>;
  /** Tries a line where an attended look stands. */
  attempt(token: string, line: (scope: Record<string, unknown>) => Promise<unknown>): Promise<Omit<TriedLine, 'text'>>;
  /** What the element at a place of the viewport is. */
  point(token: string, x: number, y: number): Promise<Pointed | null>;
  /** What may come next in a line. */
  complete(token: string, text: string): Promise<Completion>;
};
