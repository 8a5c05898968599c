/** Takes down what the service answers, as the pages of a site will ask for it. */
import { homedir } from 'node:os';
import { clientOf, type Client, httpTransport } from '../client/client.ts';
import type { Answers } from '../core/site/site.ts';
import { endingOf, type Objects } from './objects.ts';
import { packPicture } from './picture.ts';

export type Recorder = {
  /** Whose answers are taken down. */
  client: Client;
  answers: Answers;
  /** Takes down a picture or a file at an address of the client; false where there is none. */
  file(url: string): Promise<boolean>;
  /** Takes down something else than what was answered. */
  put(path: string, value: unknown): void;
};

/** JSON without paths of this machine: those in the project begin at its root. */
function withoutPaths(json: string, root: string): string {
  const written = (path: string): string => JSON.stringify(path).slice(1, -1);
  return json
    .replaceAll(`${written(root)}/`, '')
    .replaceAll(written(root), '.')
    .replaceAll(`${written(homedir())}/`, '~/');
}

/** `change` gives back what is taken down of an answer, where that is something else. */
export function recorderOf(
  origin: string,
  root: string,
  objects: Objects,
  change: (path: string, value: unknown) => unknown,
): Recorder {
  const http = httpTransport(origin);
  const answers: Answers = {};
  const put = (path: string, value: unknown): void => {
    answers[path] = objects.putJson(withoutPaths(JSON.stringify(value), root));
  };
  return {
    answers,
    put,
    client: clientOf({
      ...http,
      async call<T>(method: string, path: string, body?: unknown): Promise<T> {
        const value = await http.call<T>(method, path, body);
        if (method === 'GET') put(path, change(path, value));
        return value;
      },
    }),
    async file(url) {
      const path = url.slice(origin.length);
      if (answers[path] !== undefined) return true;
      const reply = await fetch(url);
      if (!reply.ok) return false;
      const ending = endingOf(reply.headers.get('content-type') ?? '');
      const packed = await packPicture(new Uint8Array(await reply.arrayBuffer()), ending);
      answers[path] = objects.put(packed.bytes, packed.ending);
      return true;
    },
  };
}
