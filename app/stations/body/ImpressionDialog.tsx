import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useTheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import Joi from 'joi';
import { useEffect, useState, type MouseEvent } from 'react';
import { PageDialog } from '../../ui/PageDialog';
import { spacingFromPhoto, type ImpressionPoints } from '../../../core/body/impression.ts';
import type { Vec2 } from '../../../core/math/vec.ts';
import { lengthWithUnit } from '../../../core/units/length.ts';
import { LengthField } from '../../ui/fields/NumberField';
import { useStudio } from '../../session/useStudio';
import { FileField } from '../../ui/fields/FileField';

const POINTS: readonly { key: keyof ImpressionPoints; text: string; mark: string }[] = [
  { key: 'rulerFrom', text: 'one end of a known length on the ruler', mark: 'ruler' },
  { key: 'rulerTo', text: 'the other end of it', mark: 'ruler' },
  { key: 'dentLeft', text: 'the deepest place of one dent', mark: 'dent' },
  { key: 'dentRight', text: 'the deepest place of the other', mark: 'dent' },
];

const TROUBLE = {
  'ruler-missing': 'Type the length of ruler between the two points.',
  'ruler-too-short': 'The two points on the ruler are too close together: use a longer piece.',
  'not-sit-bones':
    'That can’t be a sit-bone spacing (60 to 220 mm): check the points and the ruler’s length.',
};

const RULER = Joi.number().min(10).max(1000).messages({
  'number.min': 'At least 10 mm of the ruler, please.',
  'number.max': 'At most one metre.',
});

/** Reads the sit-bone spacing from a photo of the impression. The photo is only looked at; it is not kept. */
export function ImpressionDialog({ onClose, onTake }: { onClose: () => void; onTake: (mm: number) => void }) {
  const { palette } = useTheme();
  const { lengthUnit } = useStudio();
  const [photo, setPhoto] = useState<{ url: string; width: number; height: number } | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [points, setPoints] = useState<Partial<ImpressionPoints>>({});
  const [rulerMm, setRulerMm] = useState<number>(100);
  const next = POINTS.find((a) => !points[a.key]);
  const result = next ? null : spacingFromPhoto(points as ImpressionPoints, rulerMm);
  useEffect(() => () => void (photo && URL.revokeObjectURL(photo.url)), [photo]);
  const open = (file: File): void => {
    const url = URL.createObjectURL(file);
    const image = new Image();
    image.onload = () => {
      setFailed(null);
      setPoints({});
      setPhoto({ url, width: image.naturalWidth, height: image.naturalHeight });
    };
    image.onerror = () => {
      URL.revokeObjectURL(url);
      setFailed(`${file.name} is no picture that this browser can show: save it as JPEG or PNG.`);
    };
    image.src = url;
  };
  const point = (e: MouseEvent<SVGSVGElement>): void => {
    // The picture keeps its shape inside the drawing: the drawing itself knows where a click lands on it.
    const { x, y } = new DOMPoint(e.clientX, e.clientY).matrixTransform(
      e.currentTarget.getScreenCTM()!.inverse(),
    );
    const at: Vec2 = { x, y };
    if (next) {
      setPoints({ ...points, [next.key]: at });
      return;
    }
    // All four stand: the nearest one is moved.
    const far = (key: keyof ImpressionPoints): number =>
      Math.hypot(points[key]!.x - at.x, points[key]!.y - at.y);
    const nearest = POINTS.map((a) => a.key).reduce((best, key) => (far(key) < far(best) ? key : best));
    setPoints({ ...points, [nearest]: at });
  };
  return (
    <PageDialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>Sit-bone spacing from a photo</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" sx={{ mb: 2 }}>
          Straight from above, the ruler lying beside the dents at their height. The photo is not kept.
        </Typography>
        {failed && <Alert severity="error">{failed}</Alert>}
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-start', flexWrap: 'wrap', my: 1 }}>
          <Button component="label" variant={photo ? 'outlined' : 'contained'}>
            {photo ? 'Another photo…' : 'Choose the photo…'}
            <FileField accept="image/*" testId="impression-file" onFile={(file) => open(file)} />
          </Button>
          <LengthField label="Length on the ruler" value={rulerMm} schema={RULER} onChange={setRulerMm} />
          {photo && <Button onClick={() => setPoints({})}>Start over</Button>}
        </Box>
        {photo && (
          <>
            <Typography role="status" variant="h3" component="p" sx={{ my: 1 }}>
              {next
                ? `Point out ${POINTS.indexOf(next) + 1} of 4: ${next.text}.`
                : result?.ok
                  ? `${lengthWithUnit(Math.round(result.spacingMm), lengthUnit)} ± ${lengthWithUnit(Math.max(1, Math.round(result.uncertaintyMm)), lengthUnit)}`
                  : result && TROUBLE[result.reason]}
            </Typography>
            <svg
              viewBox={`0 0 ${photo.width} ${photo.height}`}
              style={{ width: '100%', maxHeight: '56vh', cursor: 'crosshair', display: 'block' }}
              onClick={point}
              role="img"
              aria-label="The impression"
            >
              <image href={photo.url} width={photo.width} height={photo.height} />
              {(
                [
                  ['rulerFrom', 'rulerTo'],
                  ['dentLeft', 'dentRight'],
                ] as const
              ).map(([a, b]) =>
                points[a] && points[b] ? (
                  <line
                    key={a}
                    x1={points[a].x}
                    y1={points[a].y}
                    x2={points[b].x}
                    y2={points[b].y}
                    stroke={palette.primary.main}
                    strokeWidth={photo.width / 400}
                  />
                ) : null,
              )}
              {POINTS.map(({ key }) => {
                const p = points[key];
                const r = photo.width / 70;
                return (
                  p && (
                    <path
                      key={key}
                      d={`M${p.x - r},${p.y} H${p.x + r} M${p.x},${p.y - r} V${p.y + r}`}
                      stroke={palette.primary.main}
                      strokeWidth={photo.width / 350}
                    />
                  )
                );
              })}
            </svg>
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={!result?.ok}
          onClick={() => {
            if (result?.ok) onTake(Math.round(result.spacingMm));
            onClose();
          }}
        >
          Take it
        </Button>
      </DialogActions>
    </PageDialog>
  );
}
