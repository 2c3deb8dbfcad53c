import { useTheme } from '@mui/material/styles';
import type { TestKey } from '../../../core/body/bodyTests.ts';

/** A posture as bare strokes in a 120 × 90 sheet: the head's middle and the limbs' paths. Own drawings. */
interface Pose {
  head?: [number, number];
  strokes: string;
}

const POSES = {
  standing: {
    head: [60, 12],
    strokes:
      'M60,20 V48 M48,26 H72 M48,26 L45,46 M72,26 L75,46 M54,48 H66 M54,48 L53,84 H48 M66,48 L67,84 H72',
  },
  standingSide: { head: [60, 12], strokes: 'M60,20 L59,48 M60,27 L63,46 M59,48 L60,66 L58,84 H68' },
  oneLeg: {
    head: [60, 12],
    strokes:
      'M60,20 V46 M48,26 H72 M48,26 L40,40 M72,26 L80,40 M55,46 H65 M55,46 L54,84 H48 M65,46 L72,62 L64,76',
  },
  sitting: {
    head: [46, 14],
    strokes: 'M46,22 L46,54 L76,54 L76,82 H86 M46,30 L58,48 M34,58 H62 M36,58 V84 M60,58 V84',
  },
  sole: {
    strokes:
      'M60,8 C72,8 76,24 74,38 C72,52 68,56 69,68 C70,80 60,86 54,78 C48,70 52,56 48,42 C45,26 50,8 60,8',
  },
  soles: {
    strokes:
      'M42,12 C50,12 54,24 52,38 C50,50 48,54 49,64 C50,76 40,80 36,72 C32,64 36,52 33,40 C30,26 34,12 42,12 M80,12 C72,12 68,24 70,38 C72,50 74,54 73,64 C72,76 82,80 86,72 C90,64 86,52 89,40 C92,26 88,12 80,12',
  },
  lyingRaise: { head: [14, 60], strokes: 'M22,64 H60 M60,64 H108 M60,64 L92,28 M6,72 H114 M30,64 L46,70' },
  lyingKneeUp: { head: [14, 60], strokes: 'M22,64 H60 M60,64 H108 M60,64 L54,38 L76,46 M6,72 H114' },
  lyingBent: { head: [14, 60], strokes: 'M22,64 H58 L84,34 L98,68 H106 M6,72 H114' },
  lyingAbove: {
    head: [14, 45],
    strokes: 'M22,45 H52 M52,38 V52 M52,39 H102 M102,33 V41 M52,51 H102 M102,49 V57',
  },
  sitUp: { head: [40, 18], strokes: 'M42,26 L50,62 H104 M104,54 V64 M46,38 L66,56 M6,68 H114' },
  sideLying: { head: [14, 52], strokes: 'M22,54 L58,58 M58,58 L106,62 M58,56 L98,40 M6,72 H114' },
  prone: { head: [14, 56], strokes: 'M22,60 H62 M62,60 H100 L104,50 M6,70 H114' },
  hinge: { head: [92, 24], strokes: 'M84,28 L52,38 L56,62 L52,84 H62 M80,30 L80,54' },
  reachDown: { head: [86, 52], strokes: 'M80,46 L54,34 L56,60 L54,84 H64 M78,48 L76,70' },
  armUp: { head: [60, 20], strokes: 'M60,28 L59,54 L60,70 L58,86 H66 M60,32 L66,6 M54,2 V88' },
  plank: { head: [18, 44], strokes: 'M26,48 L72,54 L108,66 M28,50 L30,66 H42 M6,70 H114' },
  lunge: {
    head: [56, 12],
    strokes: 'M56,20 L52,46 L74,56 L66,82 H80 M52,46 L40,64 L26,80 M56,28 L80,34 M84,6 V84',
  },
} satisfies Record<string, Pose>;

/** Which posture a test is done in, and what is measured on it. */
const TESTS: Record<TestKey, [pose: keyof typeof POSES, mark: string]> = {
  height: ['standing', 'M92,4 V86 M86,4 H98 M86,86 H98'],
  mass: ['standing', 'M40,87 H80 M44,84 H76'],
  inseam: ['standing', 'M60,50 V86 M52,50 H68'],
  sitBones: ['sitting', 'M40,54 V66 M52,54 V66 M40,64 H52'],
  shoulderWidth: ['standing', 'M48,20 V32 M72,20 V32 M48,22 H72'],
  footLength: ['sole', 'M34,8 V82 M30,8 H42 M30,82 H42'],
  footLengthLoaded: ['sole', 'M34,8 V82 M30,8 H42 M30,82 H42 M84,60 V82 M80,76 L84,82 L88,76'],
  footWidth: ['sole', 'M46,30 H76 M46,25 V35 M76,25 V35'],
  arch: ['sole', 'M53,46 C58,50 58,58 54,64'],
  forefootTilt: ['prone', 'M98,46 L110,54 M94,50 H112'],
  toeOutWalk: ['soles', 'M42,80 V6 M42,80 L34,8'],
  toeOutJump: ['soles', 'M42,80 V6 M42,80 L34,8 M60,30 V10 M56,16 L60,10 L64,16'],
  malleoliTraction: ['lyingAbove', 'M96,34 V56 M112,39 H118 M112,51 H118'],
  malleoliSitUp: ['sitUp', 'M98,50 V66'],
  tibia: ['lyingBent', 'M92,34 H104 M100,34 V70'],
  femur: ['lyingBent', 'M58,28 H84 M58,24 V58 M84,24 V32'],
  straightLegRaise: ['lyingRaise', 'M84,64 A24,24 0 0 0 78,45'],
  hipFlexion: ['lyingKneeUp', 'M80,64 A22,22 0 0 0 56,44'],
  hipInternal: ['sitting', 'M76,54 L88,78 M76,70 A16,16 0 0 0 83,68'],
  hipExternal: ['sitting', 'M76,54 L64,78 M76,70 A16,16 0 0 1 69,68'],
  iliotibial: ['sideLying', 'M98,40 V58 M94,52 L98,58 L102,52'],
  dorsiflexion: ['lunge', 'M66,82 V56 M66,66 A16,16 0 0 1 71,66'],
  pelvis: ['standing', 'M44,48 H76'],
  kneesStanding: ['standing', 'M48,66 H72'],
  build: ['standing', 'M50,50 H70 M50,46 V54 M70,46 V54'],
  oneLegBend: ['oneLeg', 'M54,46 L48,66 L54,84'],
  standOpen: ['oneLeg', 'M36,84 H72'],
  standClosed: ['oneLeg', 'M36,84 H72 M54,11 H66'],
  hinge: ['hinge', 'M52,32 L86,21'],
  fingertips: ['reachDown', 'M76,72 V84 M70,84 H82'],
  shoulderRange: ['armUp', 'M76,34 A18,18 0 0 0 66,14'],
  coreHold: ['plank', 'M24,40 L108,58'],
};

/** How a test is done, as a sketch: ink for the body, the accent for what is measured. */
export function PoseDrawing({ test }: { test: TestKey }) {
  const { palette } = useTheme();
  const [key, mark] = TESTS[test];
  const pose: Pose = POSES[key];
  return (
    <svg viewBox="0 0 120 90" width={168} height={126} aria-hidden="true" style={{ flexShrink: 0 }}>
      <g
        fill="none"
        stroke={palette.text.primary}
        strokeWidth={2.2}
        strokeLinecap="round"
        strokeLinejoin="round"
      >
        {pose.head && <circle cx={pose.head[0]} cy={pose.head[1]} r={7.5} />}
        <path d={pose.strokes} />
      </g>
      <path d={mark} fill="none" stroke={palette.primary.main} strokeWidth={1.8} strokeLinecap="round" />
    </svg>
  );
}
