/** Where schools differ on what to do; the fitter picks (handbook: the job, schools). */
export interface Schools {
  knee: 'dynamic' | 'static';
  foreAft: 'plumb' | 'balance';
  cleat: 'level' | 'behind' | 'between' | 'midfoot';
  kneePath: 'stance' | 'wedge';
  saddleWidth: 'support' | 'overall';
}

export const USUAL_SCHOOLS: Schools = {
  knee: 'dynamic',
  foreAft: 'plumb',
  cleat: 'behind',
  kneePath: 'stance',
  saddleWidth: 'overall',
};

/** Spindle behind the first metatarsal head by school, mm: from, to (own reading of the handbook's words; a mid-foot plate goes 35 mm and more). */
export const CLEAT_BAND_MM: Record<Schools['cleat'], readonly [number, number]> = {
  level: [-2, 4],
  behind: [7, 13],
  between: [4, 10],
  midfoot: [30, 45],
};
