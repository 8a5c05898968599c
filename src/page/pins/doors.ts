/** Doors to the network that no answer guards: what goes through one is refused or ends with the look. */
import { native } from '../host/natives.ts';
import { endWorkers, pinWorkers } from '../workers/workers.ts';
import type { Pin, Report } from './pin.ts';

let report: Report = () => {};
let channels: BroadcastChannel[] = [];
let refused = new Set<string>();

const refuse = (what: string, why: string): never => {
  report('warning', `${what} was refused: ${why}`);
  throw new DOMException(`${what} was refused by Sguardo.`, 'SecurityError');
};

/** What was refused, in words. Of a family of fonts there are many files, and which are asked for depends on texts. */
function inWords(address: string, directive: string): string {
  if (/^wss?:/.test(address)) return `A WebSocket to ${address} was`;
  if (directive === 'font-src') return `Fonts of ${new URL(address).origin} were`;
  return `A request (${directive.replace('-src', '')}) for ${address} was`;
}

/** Says once a look what the document's content security policy has kept from leaving. */
function tellRefused({ blockedURI, effectiveDirective }: SecurityPolicyViolationEvent): void {
  if (!/^(https?|wss?):/.test(blockedURI)) return;
  const what = inWords(blockedURI, effectiveDirective);
  if (refused.has(what)) return;
  refused.add(what);
  const { origin } = new URL(blockedURI);
  report(
    'warning',
    `${what} refused: looks reach no network. Give the component something of its own ` +
      `instead, or let it through with network: ['${origin}'] in sguardo.config.ts.`,
  );
}

export const doors: Pin = {
  install() {
    pinWorkers(window);
    window.SharedWorker = new Proxy(SharedWorker, {
      construct: () =>
        refuse('A shared worker', 'it would outlive the look. Use a Worker, or hand the component a stand-in.'),
    });
    window.BroadcastChannel = new Proxy(BroadcastChannel, {
      construct(target, args, newTarget) {
        const channel = Reflect.construct(target, args, newTarget) as BroadcastChannel;
        channels.push(channel);
        return channel;
      },
    });
    if ('ServiceWorkerContainer' in window)
      ServiceWorkerContainer.prototype.register = () =>
        Promise.reject(new DOMException('Service workers are refused by Sguardo.', 'SecurityError'));
    // It can be neither answered nor refused by a policy.
    delete (window as { WebTransport?: unknown }).WebTransport;
    native.addEventListener.call(document, 'securitypolicyviolation', (event) =>
      tellRefused(event as SecurityPolicyViolationEvent),
    );
  },
  begin(_request, to) {
    report = to;
    refused = new Set();
  },
  end() {
    const left = endWorkers() ? ['it started a worker'] : [];
    for (const channel of channels) channel.close();
    channels = [];
    return left;
  },
};
