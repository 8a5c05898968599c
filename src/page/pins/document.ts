/** The document around a look: everything but the look's own element is as it was after the look file was evaluated. */
import type { Pin } from './pin.ts';

type Attributes = Record<string, string>;

let start = { url: '', title: '', html: {} as Attributes, body: {} as Attributes };
let headNodes = new Set<Node>();
let bodyNodes = new Set<Node>();
let adopted: CSSStyleSheet[] = [];

const attributesOf = (element: Element): Attributes =>
  Object.fromEntries(Array.from(element.attributes, ({ name, value }) => [name, value]));

function restoreAttributes(element: Element, wanted: Attributes): void {
  for (const { name } of [...element.attributes]) if (!(name in wanted)) element.removeAttribute(name);
  for (const [name, value] of Object.entries(wanted))
    if (element.getAttribute(name) !== value) element.setAttribute(name, value);
}

/**
 * True for a style element that a styling library fills as components are first rendered: it remembers what it has
 * inserted, so the element must outlive the look. Such elements carry a data attribute or are filled through CSSOM.
 */
const isKeptByLibrary = (node: Node): boolean =>
  node instanceof HTMLStyleElement &&
  (Object.keys(node.dataset).length > 0 || (node.textContent === '' && (node.sheet?.cssRules.length ?? 0) > 0));

/** True for a sheet that the bundle loads with a module. */
export const isOfBundle = (node: Node): node is HTMLLinkElement =>
  node instanceof HTMLLinkElement &&
  /^(stylesheet|modulepreload|preload)$/.test(node.rel) &&
  node.href.startsWith(`${location.origin}/assets/`);

function restoreNodes(): string[] {
  const left: string[] = [];
  for (const node of [...document.body.childNodes]) if (!bodyNodes.has(node)) node.remove();
  for (const node of [...document.head.childNodes]) {
    if (headNodes.has(node) || isKeptByLibrary(node)) continue;
    // Its module is not evaluated again, and it cannot be told which looks want it; a fresh document loads it again for
    // those that do.
    if (isOfBundle(node)) left.push('it loaded a style sheet late');
    else node.remove();
  }
  for (const node of headNodes) if (!node.isConnected) left.push('it removed something from the head');
  for (const node of bodyNodes) if (!node.isConnected) left.push('it removed something from the body');
  return left;
}

/** True when nodes of the document around the look are others than they were, sheets of the bundle aside. */
function hasOtherNodes(): boolean {
  const isOther = (node: Node): boolean => !headNodes.has(node) && !isOfBundle(node);
  return (
    [...document.head.childNodes].some(isOther) || [...document.body.childNodes].some((node) => !bodyNodes.has(node))
  );
}

const isLike = (element: Element, wanted: Attributes): boolean =>
  JSON.stringify(attributesOf(element)) === JSON.stringify(wanted);

/** What the head holds now belongs to every look. */
export function settleHead(): void {
  headNodes = new Set(document.head.childNodes);
}

/** The address that a look begins and ends at. `address` is what the component sees as the page's own. */
export function setAddress(address: string): void {
  history.replaceState(null, '', address);
  start.url = location.href;
}

/** True when the elements are gone that every document has: there is nothing to put back, then. */
const isTornDown = (): boolean => !document.documentElement || !document.head || !document.body;

export const documentPin: Pin = {
  install() {},
  settle() {
    const { documentElement, body, head } = document;
    start = {
      url: location.href,
      title: document.title,
      html: attributesOf(documentElement),
      body: attributesOf(body),
    };
    headNodes = new Set(head.childNodes);
    bodyNodes = new Set(body.childNodes);
    adopted = [...document.adoptedStyleSheets];
  },
  isMarked() {
    if (isTornDown()) return true;
    const { documentElement, body, title, adoptedStyleSheets: sheets } = document;
    if (location.href !== start.url || title !== start.title || sheets.length !== adopted.length) return true;
    return hasOtherNodes() || !isLike(documentElement, start.html) || !isLike(body, start.body);
  },
  end() {
    if (isTornDown()) return ['it took away what every document has'];
    const left = restoreNodes();
    restoreAttributes(document.documentElement, start.html);
    restoreAttributes(document.body, start.body);
    // Setting it adds an element to a head without one.
    if (document.title !== start.title) document.title = start.title;
    window.getSelection()?.removeAllRanges();
    (document.activeElement as HTMLElement | null)?.blur?.();
    window.scrollTo(0, 0);
    if (location.href !== start.url) history.replaceState(null, '', start.url);
    const sheets = document.adoptedStyleSheets;
    // A library that has adopted a sheet believes it to be there.
    if (sheets.length !== adopted.length || sheets.some((sheet, i) => sheet !== adopted[i]))
      left.push('it changed the sheets that the document has adopted');
    if (document.fullscreenElement) void document.exitFullscreen().catch(() => {});
    return left;
  },
};
