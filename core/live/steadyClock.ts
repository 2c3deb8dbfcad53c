/** What a stamp may go back by before it is another clock's: pictures of two ways through the browser overtake each other by less. */
const OVERTAKES_S = 0.25;
const STEP_S = 0.02;

/**
 * A camera's stamps as one clock that only goes forward: a camera that was changed or woke up begins to count anew.
 * @returns the time of a stamp, s; null for a picture that came after a later one
 */
export function steadyClock(): (stampS: number) => number | null {
  let offsetS = 0;
  let last = -Infinity;
  return (stampS) => {
    let tS = stampS + offsetS;
    if (tS <= last) {
      if (last - tS < OVERTAKES_S) return null;
      offsetS += last - tS + STEP_S;
      tS = last + STEP_S;
    }
    last = tS;
    return tS;
  };
}
