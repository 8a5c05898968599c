/** What the console reads: from a service over HTTP, or later from files that somebody has published. */
import type { Client } from './client.ts';

/** Everything that only reads. Commands (running, deciding, tidying) need a service, and are no part of it. */
export type Source = Pick<
  Client,
  'project' | 'board' | 'history' | 'runs' | 'result' | 'timeline' | 'pictureUrl' | 'thumbnailUrl' | 'events'
>;

/** A source that reads from a service. */
export const httpSource = (client: Client): Source => client;
