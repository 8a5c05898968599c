/** A value of any type, where the compiler has to accept whatever a framework or a project gives. */
// biome-ignore lint/suspicious/noExplicitAny: that is what it is for
export type Anything = any;
