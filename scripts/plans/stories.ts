/** What a fitter reads beside each demo rider's figures: the story, the handbook's reason for each line, and the judgement. */
interface Story {
  name: string;
  told: string;
  /** By the line's key. */
  lines: Record<string, string>;
  judged: string;
}

export const STORIES = {
  maren: {
    name: 'Maren Toft',
    told: 'Five days of gravel ahead; front-of-knee ache both sides, tingling hands. New saddle in August, left where it came: low and forward, 3.5° nose-down, reach long.',
    lines: {
      cleatBack: 'front of knee lists a forward cleat; moved only because the complaint raises it.',
      saddleTilt:
        'more than 3° nose-down is nearly always hiding something; for hands it is the first, free thing to try.',
      saddleUp:
        'front of knee: saddle too low leads (knee bend at its least and most); 3 mm steps, at most 10 mm before a re-film.',
      saddleBack: 'knee over spindle forward: 5 mm steps, hands-off test after each.',
      barWidth: 'shoulder width ± 20 mm; only because the hands complain.',
      front: 'reach long: tingling hands, trunk to upper arm; stem from the bin, one whole part.',
    },
    judged:
      'Makes sense: the knee’s two suspects (low, forward) and the hands’ (nose-down, reach) are answered from the ground up, and the height is split into a part for today and one after a re-film.',
  },
  idris: {
    name: 'Idris Bellweather',
    told: 'City bike, clipless for four weeks; outside-of-foot pain both sides that builds up. Cleats ahead of the first head, stance narrow for a broad, tall, bow-legged rider with tight hips.',
    lines: {
      cleatBack:
        'spindle 10 mm or more behind the first head; a cleat ahead of it is a fault. Acts like half as much saddle up, and the knee stays in its band: no partner change needed.',
      stance:
        'outside edge of foot that builds up, both feet: stance too narrow. To move the foot out, the cleat goes in; cheapest first.',
    },
    judged:
      'Makes sense: his saddle is in band and is left alone. The ankle’s range is out but is a habit; no bolt is turned for it.',
  },
  pilar: {
    name: 'Pilar Quist',
    told: 'Back after two years, low back and a pinch at the front of the hip; hamstrings 54°, hinge rounds, hip flexion 104°. Bar low for her back, 175 mm cranks on a 716 mm inseam.',
    lines: {
      crank:
        'hip pinch at the top: crank long leads; 0.20–0.216 × inseam is 142.5 to 155 mm, the knee is over its band at the top; a shorter crank gains twice there.',
      saddleUp: 'a shorter crank raises the pedal at the bottom.',
      saddleBack: 'brings knee over spindle and hip back towards their bands; half steps.',
      front: 'bar low past the back’s limit: stem turned over or spacers first, free before parts.',
    },
    judged:
      'Makes sense in kind and order: crank, then saddle, then bar up. It does not reach the back’s floor (57° after three adjustments): said as still out. A taller bar than this frame gives would be the next question, and half steps hold throughout.',
  },
  juno: {
    name: 'Juno Achterberg',
    told: 'Pursuit on extensions, wants to be lower; nothing hurts. Saddle raised 8 mm in October “to open the hip”; hip still closed.',
    lines: {
      cleatBack: 'cleats that do not match: 3 mm apart, put level with each other.',
      saddleBack:
        'time trial: the saddle comes forward to keep the hip open; knee over spindle may lie 0 to +70 mm here.',
      crank: 'hip closed: a shorter crank opens it at the top.',
      front: 'takes up what the saddle’s change does to the reach.',
    },
    judged:
      'Makes sense: the hip is what limits her, and forward opens it where higher did not. Her foot pitch is still inside the time-trial band, so that the film alone does not prove the October raise wrong: the pointing is looked at again once the hip is open. “Lower” waits for the hip, as the handbook has it.',
  },
} as const satisfies Record<string, Story>;
