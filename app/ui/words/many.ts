/** “1 rider”, “3 riders”. */
export const many = (n: number, one: string, more = `${one}s`): string => `${n} ${n === 1 ? one : more}`;
