/** Sizes of files as people read them: `12 kB`, `1.2 MB`. */
export const sizeText = (bytes: number): string =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
