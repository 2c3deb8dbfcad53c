import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { momentText } from './words/dates';
import { fieldName, fieldUnit } from '../../core/bike/fields.ts';
import type { Change, ChangedValue, RiderWord } from '../../core/plan/terms/change.ts';
import { lengthWithUnit, type LengthUnit } from '../../core/units/length.ts';
import { Choice } from './fields/Choice';
import { useStudio } from '../session/useStudio';

const WORDS: readonly (readonly [RiderWord, string])[] = [
  ['better', 'better'],
  ['same', 'the same'],
  ['worse', 'worse'],
];

export function valueText(at: string, value: ChangedValue['to'], unit: LengthUnit): string {
  if (value === null || value === '') return 'open';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') return value;
  const kind = fieldUnit(at);
  return kind === 'mm' ? lengthWithUnit(value, unit) : `${value}${kind}`.replace('-', '−');
}

/** “Height to bottom bracket (saddle): 744 mm → 750 mm”. */
export function ValueMove({ v }: { v: ChangedValue }) {
  const { lengthUnit } = useStudio();
  return (
    <Typography>
      {fieldName(v.at)}: {valueText(v.at, v.from, lengthUnit)} →{' '}
      <strong>{valueText(v.at, v.to, lengthUnit)}</strong>
    </Typography>
  );
}

/** What moves along when a saddle goes up: told after it, and more quietly. */
const CARRIED = /^saddle\.(setback80Mm|setbackNoseMm|postShowingMm|heightToSpindleMm)$/;

/** A change's values: what was moved by hand, then what moved along with it. */
export function ChangeMoves({ values }: { values: readonly ChangedValue[] }) {
  const { lengthUnit } = useStudio();
  const raised = values.some((v) => v.at === 'saddle.heightMm');
  const along = raised ? values.filter((v) => CARRIED.test(v.at)) : [];
  const own = values.filter((v) => !along.includes(v));
  return (
    <>
      {own.slice(0, 4).map((v) => (
        <ValueMove key={v.at} v={v} />
      ))}
      {own.length > 4 && <Typography>and {own.length - 4} more</Typography>}
      {along.length > 0 && (
        <Typography variant="body2" color="textSecondary">
          with it{' '}
          {along
            .map(
              (v) =>
                `${fieldName(v.at).toLowerCase().replace(' (saddle)', '')} ${valueText(v.at, v.to, lengthUnit)}`,
            )
            .join(', ')}
        </Typography>
      )}
    </>
  );
}

/** What was moved, newest first, with what the rider said; each can be put back. */
export function Moves({
  changes,
  onWord,
  onPutBack,
}: {
  changes: readonly Change[];
  onWord: (changeId: string, word: RiderWord | null) => void;
  onPutBack: (id: string) => void;
}) {
  return (
    <Box component="ol" aria-label="What was moved" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {changes.toReversed().map((c) => (
        <Box
          component="li"
          key={c.id}
          sx={{ borderBottom: 1, borderColor: 'divider', py: 1, opacity: c.putBackIso ? 0.75 : 1 }}
        >
          <ChangeMoves values={c.values} />
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap', mt: 0.5 }}>
            <Choice<RiderWord>
              label="The rider says"
              hideLabel
              options={WORDS}
              value={c.word}
              onChange={(word) => onWord(c.id, word)}
            />
            <Box sx={{ flex: 1 }} />
            {c.putBackIso ? (
              <Typography variant="body2" color="textSecondary">
                undone {momentText(c.putBackIso)}
              </Typography>
            ) : (
              <Button size="small" onClick={() => onPutBack(c.id)}>
                Undo this change
              </Button>
            )}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
