/** What a person's surroundings are to a page, as calls of the DevTools protocol. */
import type { Environment } from '../../core/settings/environment.ts';
import type { Surroundings } from '../../core/wire/wire.ts';

type Call = { method: string; params: object };

const call = (method: string, params: object): Call => ({ method, params });

/** Media type and features: each call replaces all that were set before. */
function mediaCall(environment: Environment, changes: Surroundings): Call {
  const { scheme, motion, contrast } = { ...environment, ...changes };
  return call('Emulation.setEmulatedMedia', {
    media: changes.print ? 'print' : '',
    features: [
      { name: 'prefers-color-scheme', value: scheme },
      { name: 'prefers-reduced-motion', value: motion },
      { name: 'prefers-contrast', value: contrast },
      { name: 'forced-colors', value: changes.forcedColours ? 'active' : 'none' },
    ],
  });
}

function viewportCall({ viewport, ratio }: Environment, changes: Surroundings): Call {
  const [width, height] = changes.viewport ?? viewport;
  return call('Emulation.setDeviceMetricsOverride', { width, height, deviceScaleFactor: ratio, mobile: false });
}

function placeCall(place: Surroundings['place']): Call {
  if (place === undefined) return call('Emulation.clearGeolocationOverride', {});
  const [latitude, longitude, accuracy] = place ?? [];
  return call('Emulation.setGeolocationOverride', place ? { latitude, longitude, accuracy } : {});
}

const onlineCall = (online: boolean): Call =>
  call('Network.emulateNetworkConditions', {
    offline: !online,
    latency: 0,
    downloadThroughput: -1,
    uploadThroughput: -1,
  });

/** What scripts ask for is always paused: pictures, styles and modules keep their speed. */
const ofScripts = ['XHR', 'Fetch', 'EventSource', 'Ping'].map((resourceType) => ({ urlPattern: '*', resourceType }));

/** What a page asks for by itself, and a look may answer (DevTools protocol, Network.ResourceType). */
const answerable = ['Image', 'Media', 'Font', 'Stylesheet'];

/** Which requests are paused, so that the page says what becomes of them. */
export const pauseCall = ({ answered = [] }: Surroundings): Call => {
  const ofPage = answered.flatMap((urlPattern) => answerable.map((resourceType) => ({ urlPattern, resourceType })));
  return call('Fetch.enable', { patterns: [...ofScripts, ...ofPage] });
};

/** True for a request that no script has made. */
export const isOfPage = (resourceType: string): boolean => answerable.includes(resourceType);

/** The calls for everything that an environment says of media and viewport. */
export const environmentCalls = (environment: Environment): Call[] => [
  viewportCall(environment, {}),
  mediaCall(environment, {}),
];

/** The calls that lead from some changes of an environment to others. */
export function changeCalls(environment: Environment, before: Surroundings, now: Surroundings): Call[] {
  const differs = (...keys: (keyof Surroundings)[]): boolean =>
    keys.some((key) => JSON.stringify(before[key]) !== JSON.stringify(now[key]));
  return [
    ...(differs('viewport') ? [viewportCall(environment, now)] : []),
    ...(differs('scheme', 'motion', 'contrast', 'forcedColours', 'print') ? [mediaCall(environment, now)] : []),
    ...(differs('place') ? [placeCall(now.place)] : []),
    ...(differs('online') ? [onlineCall(now.online ?? true)] : []),
    ...(differs('answered') ? [pauseCall(now)] : []),
  ];
}

/** The calls for permissions, which belong to a browser context rather than to its page. */
export const permissionCalls = (permissions: Surroundings['permissions'], origin: string, context: string): Call[] =>
  Object.entries(permissions ?? {}).map(([name, setting]) =>
    call('Browser.setPermission', { permission: { name }, setting, origin, browserContextId: context }),
  );
