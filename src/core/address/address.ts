/** Addresses from pages: whatever text one is, it is parsed or it is not, and nothing is thrown. */

/** The members of the URL standard's `URL` that are used here; both browsers and Node have it. */
type Parsed = { href: string; origin: string; protocol: string; pathname: string; search: string; host: string };

const { URL: Parser } = globalThis as unknown as { URL: new (text: string, base?: string) => Parsed };

/** A parsed address (WHATWG URL). */
export type Address = Readonly<Parsed>;

/** Parses an address, relative to `base` where one is given; null for what is no address. */
export function addressOf(text: string, base?: string): Address | null {
  try {
    return new Parser(text, base);
  } catch {
    return null;
  }
}

/** Percent-decodes a path; null for one that is not well-formed, such as `/100%.png`. */
export function decodePath(path: string): string | null {
  try {
    return decodeURIComponent(path);
  } catch {
    return null;
  }
}

/** The names and values of an address's query, as far as they are well-formed. */
export function queryOf(address: string): { name: string; value: string }[] {
  const query = address.split('#')[0]!.split('?').slice(1).join('?');
  return query.split('&').flatMap((pair) => {
    const [name, ...rest] = pair.split('=').map((part) => decodePath(part.replaceAll('+', ' ')) ?? part);
    return name ? [{ name, value: rest.join('=') }] : [];
  });
}

/** A `data:` URL's media type and body (RFC 2397), the body still encoded; null for anything else. */
export function dataUrlOf(url: string): { type: string; base64: boolean; body: string } | null {
  const comma = url.indexOf(',');
  if (!/^data:/i.test(url) || comma < 0) return null;
  const about = url.slice(5, comma).split(';');
  const base64 = about.at(-1)?.trim().toLowerCase() === 'base64';
  const type = (base64 ? about.slice(0, -1) : about).join(';').trim();
  return { type: type || 'text/plain;charset=US-ASCII', base64, body: url.slice(comma + 1) };
}
