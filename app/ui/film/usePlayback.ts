import { useEffect, type RefObject } from 'react';

/** Plays a film at a share of its own speed from the frame wanted last; from the start where it stood at the end. */
export function usePlayback({
  playing,
  speed,
  tS,
  wanted,
  goTo,
  end,
}: {
  playing: boolean;
  speed: number;
  /** The frames’ stamps; null while the film is not open. */
  tS: Float64Array | null;
  wanted: RefObject<number>;
  goTo: (frame: number, passing?: boolean) => void;
  end: () => void;
}): void {
  useEffect(() => {
    if (!playing || !tS) return undefined;
    const from = wanted.current >= tS.length - 1 ? 0 : wanted.current;
    const begin = performance.now();
    let handle = 0;
    const tick = (): void => {
      const t = tS[from] + ((performance.now() - begin) / 1000) * speed;
      let k = wanted.current < from ? from : wanted.current;
      if (k >= tS.length - 1 && t < tS[tS.length - 1]) k = from;
      while (k < tS.length - 1 && tS[k + 1] <= t) k += 1;
      if (k !== wanted.current) goTo(k, true);
      if (k >= tS.length - 1) end();
      else handle = requestAnimationFrame(tick);
    };
    handle = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(handle);
  }, [playing, speed, tS, wanted, goTo, end]);
}
