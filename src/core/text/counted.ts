/** A number with its noun: `counted(1, 'capture')` is “1 capture”, `counted(2, 'line differs', 'lines differ')`. */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
