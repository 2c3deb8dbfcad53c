import { useCallback } from 'react';
import { wordsIn } from '../../core/units/length.ts';
import { useStudio } from '../session/useStudio';

/** Puts the lengths in what `core` says, which speaks in millimetres, into the studio's unit. */
export function useInUnits(): <T>(value: T) => T {
  const { lengthUnit } = useStudio();
  return useCallback(<T>(value: T): T => wordsIn(value, lengthUnit), [lengthUnit]);
}
