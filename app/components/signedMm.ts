/** A change in millimetres with its sign: “+9 mm”. */
export const signedMm = (mm: number): string => `${mm > 0 ? '+' : mm < 0 ? '−' : ''}${Math.abs(mm)} mm`;
