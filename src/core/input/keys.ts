/** The names of keys, as the UI Events specification has them. What a key carries is the engine's matter. */

/** Bits by which input says which modifiers are held. */
export const modifierBits = { Alt: 1, Control: 2, Meta: 4, Shift: 8 } as const;

/** Keys that make no character of their own. */
export const namedKeys: ReadonlySet<string> = new Set([
  ...['Enter', 'Tab', 'Escape', 'Backspace', 'Delete', 'Insert', 'Home', 'End', 'PageUp', 'PageDown'],
  ...['ArrowLeft', 'ArrowUp', 'ArrowRight', 'ArrowDown', 'Shift', 'Control', 'Alt', 'Meta'],
  ...Array.from({ length: 12 }, (_, i) => `F${i + 1}`),
]);

/** True for a name that `press` understands: a named key or a single character. */
export const isKey = (name: string): boolean => namedKeys.has(name) || name === 'Space' || [...name].length === 1;
