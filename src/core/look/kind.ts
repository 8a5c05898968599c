/** The kinds of components that looks can be of. */
export const kinds = ['react', 'vue', 'svelte', 'angular', 'dom'] as const;

export type Kind = (typeof kinds)[number];
