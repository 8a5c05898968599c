/** Answers: stubbed network replies. */
import { portOf } from './port.ts';

/** What is replied. Without a status it is 200; `json` sets the body and its type. */
export type AnswerInit = {
  status?: number;
  json?: unknown;
  body?: string;
  headers?: Record<string, string>;
  /** Keeps requests waiting until `letGo()`: a loading state. */
  hold?: boolean;
  /** Replies only after so many milliseconds of the look's own time. */
  delay?: number;
  /** Fails as if the server could not be reached. */
  unreachable?: boolean;
};

/** A request as the component made it. */
export type Received = {
  method: string;
  url: string;
  headers: Record<string, string>;
  body: string | null;
  json: unknown;
  /** What the address says after its question mark; the last value of a name that comes again. */
  query: Record<string, string>;
  /** What stands for the names in the route. */
  params: Record<string, string>;
};

export type Answer = {
  readonly isAnswer: true;
  readonly route: string;
  /** The requests it was given, oldest first. */
  readonly calls: Received[];
  /** Sends the replies that were held; later ones are not held any more. */
  letGo(): Promise<void>;
};

/** Answers requests of a route from now on; the newest answer to a route wins. */
export const answer = (route: string, init: AnswerInit = {}): Promise<Answer> =>
  portOf('answer').answer(String(route), init);

/** True for what `answer` gives. */
export const isAnswer = (value: unknown): value is Answer =>
  typeof value === 'object' && value !== null && (value as Partial<Answer>).isAnswer === true;
