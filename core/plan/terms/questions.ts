/** What the plan asks before it goes on; each answer is one of a few. */
export const QUESTIONS = [
  {
    key: 'footToGround',
    text: 'Must the foot reach the ground from the saddle, and does it now?',
    options: [
      ['just', 'it must, and just does'],
      ['room', 'it must, and there is room'],
      ['no', 'it need not'],
    ],
  },
  {
    key: 'noseDown',
    text: 'What is the downward nose for?',
    options: [
      ['unknown', 'nobody set it on purpose'],
      ['softTissue', 'to take pressure off in front'],
      ['lowBack', 'for the low back, by advice'],
      ['slope', 'for climbing, or low on extensions'],
    ],
  },
  {
    key: 'handsHabits',
    text: 'Hands: which gloves, how long in one hold, and do the wrists bend?',
    options: [
      ['gloves', 'gloves or tape are worn or new'],
      ['hold', 'long in one hold'],
      ['wrist', 'the wrists bend'],
      ['none', 'none of these'],
    ],
  },
  {
    key: 'changed',
    text: 'What changed in the weeks before it began?',
    options: [
      ['bike', 'bike, saddle or shoes'],
      ['training', 'a jump in training'],
      ['nothing', 'nothing'],
    ],
  },
] as const;

export type QuestionKey = (typeof QUESTIONS)[number]['key'];
export type Answers = Partial<Record<QuestionKey, string>>;
