/** Packages with a part that is compiled for one machine: who installs without their scripts has them without it. */

const unbuilt =
  /Could not locate the bindings file|was compiled against a different Node\.js version|invalid ELF header/;

/** Packages that say it in words of their own name themselves. */
const named = /Could not load the "(sharp)" module/;

/** The package that an error says is not built for this machine; null for any other error. */
export function unbuiltPackage(error: unknown): string | null {
  if (!(error instanceof Error)) return null;
  const name = named.exec(error.message)?.[1];
  if (name) return name;
  if (!unbuilt.test(error.message) && (error as { code?: unknown }).code !== 'ERR_DLOPEN_FAILED') return null;
  const [path] = /\S*node_modules\/\S+/.exec(error.message) ?? [];
  // Package managers that keep packages apart have folders of that name in one another.
  return path ? (/.*node_modules\/((?:@[^/]+\/)?[^/]+)/.exec(path)?.[1] ?? null) : null;
}
