/** What a fitter reads beside each demo rider's figures: the story, the handbook's reason for each line, and the judgement. */
interface Story {
  name: string;
  complaint: string;
  /** By the line's key. */
  lines: Record<string, string>;
  judged: string;
}

export const STORIES = {
  maren: {
    name: 'Maren Toft',
    complaint:
      'Five days of gravel ahead; front-of-knee ache both sides, tingling hands. New saddle in August, left where it came: low and forward, 3.5° nose-down, reach long.',
    lines: {
      saddleTilt:
        'more than 3° nose-down is nearly always hiding something; for hands it is the first, free thing to try.',
      saddleUp: 'front of knee: saddle too low leads; 3 mm steps, at most 10 mm before a re-film.',
      saddleBack: 'knee over spindle forward: 5 mm steps, hands-off test after each.',
      hands: 'reach long: tingling hands, trunk to upper arm; stem from the parts bin, one whole part.',
    },
    judged:
      'Makes sense: the knee’s two suspects (low, forward) and the hands’ (nose-down, reach) are answered, no more than three things in one round, the rest after a re-film.',
  },
  idris: {
    name: 'Idris Bellweather',
    complaint:
      'City bike, clipless for four weeks; outside-of-foot pain both sides that builds up. Cleats ahead of the first head, stance narrow for a broad, tall, bow-legged rider with tight hips.',
    lines: {
      cleatBack: 'spindle behind the first head; a cleat ahead of it is a fault. The knee stays in its band.',
      stance:
        'outside edge of foot that builds up, both feet: stance too narrow. To move the foot out, the cleat goes in; cheapest first.',
    },
    judged: 'Makes sense: his saddle is in band and is left alone.',
  },
  pilar: {
    name: 'Pilar Quist',
    complaint:
      'Back after two years, low back and a pinch at the front of the hip; hamstrings 54°, hinge rounds, hip flexion 104°. Bar low for her back, 175 mm cranks on a short inseam.',
    lines: {
      crank: 'hip pinch at the top: crank long leads; a shorter crank gains twice there.',
      hands: 'bar low past the back’s limit: spacers and stem turned over first, free before parts.',
    },
    judged:
      'Makes sense in kind and order: crank with its saddle, then bar up by a half step. The back’s floor is not reached in one round: said as still out.',
  },
  juno: {
    name: 'Juno Achterberg',
    complaint:
      'Pursuit on extensions, wants to be lower; nothing hurts. Saddle raised 8 mm in October “to open the hip”; hip still closed.',
    lines: {
      saddleBack:
        'time trial: the saddle comes forward to keep the hip open; knee over spindle may lie 0 to +70 mm here.',
    },
    judged:
      'Makes sense: the hip is what limits her, and forward opens it where higher did not. “Lower” waits for the hip, as the handbook has it.',
  },
} as const satisfies Record<string, Story>;
