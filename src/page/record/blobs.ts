/**
 * Remembers what `blob:` addresses stand for: only this page knows, and a component may give one up right after use.
 */
const kept = new Map<string, Blob>();

/** Called once, before anything of the project runs. */
export function watchBlobs(): void {
  const create = URL.createObjectURL.bind(URL);
  URL.createObjectURL = (source) => {
    const url = create(source);
    if (source instanceof Blob) kept.set(url, source);
    return url;
  };
}

/** The bytes behind a `blob:` address as a `data:` URL, or null when it is not one of this look's. */
export async function blobAsData(url: string): Promise<string | null> {
  const blob = kept.get(url);
  if (!blob) return null;
  return new Promise((resolve) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => resolve(null);
    reader.readAsDataURL(blob);
  });
}

/** A look has ended: gives up its blobs. */
export function forgetBlobs(): void {
  for (const url of kept.keys()) URL.revokeObjectURL(url);
  kept.clear();
}
