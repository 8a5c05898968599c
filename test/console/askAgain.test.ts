/** What the console knows when something changes while it asks. */
import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { describe, expect, it } from 'vitest';
import { askAgain } from '../../src/console/askAgain.ts';

/** Questions that are answered when the test says so, in the order in which they were asked. */
function questions() {
  const waiting: ((answer: string) => void)[] = [];
  const queryFn = (): Promise<string> => new Promise((resolve) => waiting.push(resolve));
  const answered = async (text: string): Promise<void> => {
    waiting.shift()?.(text);
    await new Promise((resolve) => setTimeout(resolve, 5));
  };
  return { queryFn, answered, asked: () => waiting.length };
}

function shown(queries: QueryClient, queryKey: string[], queryFn: () => Promise<string>) {
  const observer = new QueryObserver<string>(queries, { queryKey, queryFn, retry: false });
  observer.subscribe(() => undefined);
  return () => observer.getCurrentResult().data;
}

describe('what has changed at the service', () => {
  it('is asked for again when its first answer is still to come, and may be older', async () => {
    const queries = new QueryClient();
    const { queryFn, answered, asked } = questions();
    const data = shown(queries, ['sitting', '1'], queryFn);
    askAgain(queries, ['sitting']);
    await answered('running');
    expect([data(), asked()]).toEqual(['running', 1]);
    await answered('stopped');
    expect([data(), asked()]).toEqual(['stopped', 0]);
  });

  it('is asked for again when it is known, once, and nothing else is', async () => {
    const queries = new QueryClient();
    const board = questions();
    const history = questions();
    const data = shown(queries, ['board'], board.queryFn);
    shown(queries, ['history'], history.queryFn);
    await board.answered('old');
    await history.answered('old');
    askAgain(queries, ['board']);
    expect([board.asked(), history.asked()]).toEqual([1, 0]);
    await board.answered('new');
    expect([data(), board.asked()]).toEqual(['new', 0]);
  });
});
