/** What runs in the service worker of stages. */

/** The worker: hands what scripts ask for to their page, and everything else to the network. */
const workerFor = (isStage: string): string => `
const isStage = (url) => ${isStage};
self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
self.addEventListener('fetch', (event) => {
  const { request, clientId } = event;
  const { pathname, origin } = new URL(request.url);
  // Modules, styles and pictures are files; the bundler asks whether it is there by an accept header of its own.
  if (request.destination !== '' || request.headers.get('accept') === 'text/x-vite-ping') return;
  if (origin === location.origin && /^\\/(@|node_modules\\/|__sguardo\\/)/.test(pathname)) return;
  event.respondWith((async () => {
    const client = await self.clients.get(clientId);
    if (!client || !isStage(client.url)) return fetch(request);
    const body = request.method === 'GET' || request.method === 'HEAD' ? null : await request.clone().text();
    const headers = Object.fromEntries(request.headers);
    const answer = (isMissing) => new Promise((resolve) => {
      const { port1, port2 } = new MessageChannel();
      port1.onmessage = ({ data }) => resolve(data);
      client.postMessage({ method: request.method, url: request.url, headers, body, isMissing }, [port2]);
    });
    let sent = await answer(false);
    if (sent === 'file') {
      const file = await fetch(request).catch(() => null);
      if (file?.ok) return file;
      sent = await answer(true);
    }
    if (sent === 'refuse') return Response.error();
    if (typeof sent.body === 'object' && 'file' in sent.body) {
      const file = await fetch('/' + sent.body.file);
      return new Response(await file.blob(), { status: sent.status, headers: sent.headers });
    }
    const content = typeof sent.body === 'object'
      ? Uint8Array.from(atob(sent.body.base64), (letter) => letter.charCodeAt(0)) : sent.body;
    const isBare = sent.status === 204 || sent.status === 304;
    return new Response(isBare ? null : content, { status: sent.status, headers: sent.headers });
  })());
});
`;

export const liveWorker = workerFor("new URL(url).pathname === '/__sguardo/stage'");

/** The one of a published site: whatever it may control is a stage. */
export const siteWorker = workerFor('url.startsWith(registration.scope)');
