/** The world around a look: what its file says of it, and what its script changes. */
import type { LookRequest, Surroundings } from '../../core/wire/wire.ts';
import type { World } from '../../language/looks.ts';
import { worldInWords } from '../../language/words.ts';
import type { WorldChange } from '../../language/world.ts';
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
  await ask(look, { do: 'surround', with: surroundings });
  await nextFrame();
}

const asText = (value: unknown): string => (typeof value === 'string' ? value : JSON.stringify(value));

/** Before a look is recorded: everything is as its file says. */
export async function beginWorld({ number }: LookRequest, world: World): Promise<void> {
  media = {};
  setChangedMedia({});
  await change(number, world);
}

/** When the pins of a look have begun, and before anything is on the page. */
export function fillWorld({ location, storage, cookies, random }: World): void {
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
