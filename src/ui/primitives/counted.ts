/** "1 step", "2 steps". */
export const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`
