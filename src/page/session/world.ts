/** The world around a look: what its file says of it, and what its script changes. */
import { fail, messageOf } from '../../core/problem/problem.ts';
import type { LookRequest, Surroundings } from '../../core/wire/wire.ts';
import { show } from '../../core/value/show.ts';
import type { World } from '../../language/settings.ts';
import { worldInWords } from '../../language/words.ts';
import { type WorldChange, worldEntries } from '../../language/world.ts';
import { ask } from '../host/host.ts';
import { setOnline } from '../host/settings.ts';
import { seedChance } from '../pins/chance.ts';
import { setChangedMedia } from '../record/media.ts';
import { step } from '../record/step.ts';
import { nextFrame } from '../time/frame.ts';

let media: WorldChange['media'] = {};

function surroundingsOf({ viewport, media: seen, permissions, geolocation, online }: WorldChange): Surroundings {
  const place = geolocation && ([geolocation.latitude, geolocation.longitude, geolocation.accuracy ?? 10] as const);
  return {
    ...(viewport && { viewport: [viewport[0], viewport[1]] }),
    ...seen,
    ...(permissions && { permissions }),
    ...(place !== undefined && { place: place === null ? null : [...place] }),
    ...(online !== undefined && { online }),
  };
}

/** Tells the host, and whoever has to know on this side. */
async function change(look: number, changes: WorldChange): Promise<void> {
  const surroundings = surroundingsOf(changes);
  if (Object.keys(surroundings).length === 0) return;
  media = { ...media, ...changes.media };
  setChangedMedia(media);
  if (changes.online !== undefined) setOnline(changes.online);
  await ask(look, { do: 'surround', with: surroundings }).catch((error: Error) =>
    fail('world-refused', { what: worldInWords(changes).replace('change the world: ', ''), error: error.message }),
  );
  await nextFrame();
}

const asText = (value: unknown): string => (typeof value === 'string' ? value : JSON.stringify(value));

/** Before a look is recorded: everything is as its file says. */
export async function beginWorld({ number }: LookRequest, world: World): Promise<void> {
  media = {};
  setChangedMedia({});
  const isSaid = (name: (typeof worldEntries)[number]): boolean =>
    name === 'media' ? Object.keys(world.media ?? {}).length > 0 : world[name] !== undefined;
  const changes = worldEntries.filter(isSaid);
  await change(number, Object.fromEntries(changes.map((name) => [name, world[name]])));
}

/** When the pins of a look have begun, and before anything is on the page. */
export function fillWorld(world: World): void {
  try {
    fill(world);
  } catch (error) {
    const { location, storage } = world;
    fail('world-refused', {
      what: location ? `location ${location}` : `storage ${show(storage)}`,
      error: messageOf(error),
    });
  }
}

function fill({ location, storage, cookies, random }: World): void {
  if (location !== undefined) history.replaceState(null, '', location);
  for (const [key, value] of Object.entries(storage?.local ?? {})) localStorage.setItem(key, asText(value));
  for (const [key, value] of Object.entries(storage?.session ?? {})) sessionStorage.setItem(key, asText(value));
  // biome-ignore lint/suspicious/noDocumentCookie: the Cookie Store API is asynchronous
  for (const [name, value] of Object.entries(cookies ?? {})) document.cookie = `${name}=${value}; path=/`;
  if (random !== undefined) seedChance(random);
}

/** Changes the world as one step of the look that runs. */
export const worldChanged = (changes: WorldChange): Promise<void> =>
  step('action', worldInWords(changes), (_, { number }) => change(number, changes));
