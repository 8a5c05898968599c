/** Pictures of looks as the service answers with them: drawn from their own names, so that no two are alike. */

const shades = ['#4b55a8', '#2d6e4a', '#8f5c06', '#1d6391', '#8a2470', '#b02a2a'];

/** The hash that a sample picture has: 64 digits, of which all begin otherwise. */
export const hashOf = (number: number): string => (number * 2_654_435_761 + 1).toString(16).padStart(16, '0').repeat(4);

/** A card with a heading, a tag and a row of buttons, in the shade of its hash. */
export function pictureOf(hash: string): string {
  const seed = Number.parseInt(hash.slice(0, 16), 16) % 997;
  const shade = shades[seed % shades.length]!;
  const width = 120 + (seed % 90);
  return `<svg xmlns="http://www.w3.org/2000/svg" width="420" height="180" viewBox="0 0 420 180">
    <rect width="420" height="180" fill="#fdfcf9"/>
    <rect x="16" y="16" width="388" height="148" rx="8" fill="#fff" stroke="#d9d6cb"/>
    <rect x="32" y="34" width="${width}" height="16" rx="3" fill="#20242f"/>
    <rect x="32" y="62" width="${width + 60}" height="9" rx="3" fill="#9a9fac"/>
    <rect x="32" y="80" width="${width + 30}" height="9" rx="3" fill="#9a9fac"/>
    <rect x="320" y="30" width="68" height="22" rx="11" fill="${shade}"/>
    <rect x="32" y="116" width="104" height="30" rx="5" fill="${shade}"/>
    <rect x="146" y="116" width="76" height="30" rx="5" fill="#ebe9e1"/>
  </svg>`;
}

/** The page of a live look, as a photograph. */
export function photographed(): Promise<Blob> {
  const canvas = new OffscreenCanvas(900, 640);
  const pen = canvas.getContext('2d')!;
  pen.fillStyle = '#fdfcf9';
  pen.fillRect(0, 0, 900, 640);
  for (const [shade, x, y, width, height] of [
    ['#20242f', 32, 34, 200, 20],
    ['#9a9fac', 32, 66, 280, 10],
    ['#4b55a8', 32, 100, 120, 34],
  ] as const) {
    pen.fillStyle = shade;
    pen.fillRect(x, y, width, height);
  }
  return canvas.convertToBlob();
}
