/** Components that are around an app for what they give to it; others are the layout of its pages. */

/** True for the name of a component, in Pascal case, that gives something to what stands in it. */
export const provides = (name: string): boolean => /\w(Provider|App|Theme|Config|Context)$/.test(name);
