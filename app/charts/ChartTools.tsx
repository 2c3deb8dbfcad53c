import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useTheme } from '@mui/material/styles';
import { useRef, type ReactNode } from 'react';
import { download } from '../ui/download';

const SCALE = 3;

/** The drawings of a chart that lie over one another, as one that stands by itself: fonts and colours written out, a ground. */
export function wholeDrawing(
  box: HTMLElement,
  ink: string,
  background: string,
  font = 'Archivo, Arial, sans-serif',
): { svg: SVGSVGElement; width: number; height: number } | null {
  const layers = [...box.querySelectorAll<SVGSVGElement>('svg')];
  if (layers.length === 0) return null;
  const { width, height } = layers[0].viewBox.baseVal;
  const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
  svg.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  svg.setAttribute('viewBox', `0 0 ${width} ${height}`);
  svg.setAttribute('width', String(width));
  svg.setAttribute('height', String(height));
  const paper = document.createElementNS(svg.namespaceURI, 'rect');
  for (const [name, value] of Object.entries({ width, height, fill: background }))
    paper.setAttribute(name, String(value));
  svg.append(paper);
  for (const layer of layers) for (const child of layer.children) svg.append(child.cloneNode(true));
  for (const text of svg.querySelectorAll('text')) {
    text.setAttribute('font-family', font);
    text.setAttribute('font-size', '13');
    text.setAttribute('fill', ink);
  }
  return { svg, width, height };
}

/** A chart with its ways out: as a drawing (SVG) and as a picture (PNG). */
export function ChartTools({ name, children }: { name: string; children: ReactNode }) {
  const box = useRef<HTMLDivElement | null>(null);
  const { palette } = useTheme();
  const drawing = () =>
    box.current && wholeDrawing(box.current, palette.text.primary, palette.background.default);
  const saveSvg = (): void => {
    const whole = drawing();
    if (whole) download(`${name}.svg`, new XMLSerializer().serializeToString(whole.svg), 'image/svg+xml');
  };
  const savePng = async (): Promise<void> => {
    const whole = drawing();
    if (!whole) return;
    const picture = new Image();
    picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(new XMLSerializer().serializeToString(whole.svg))}`;
    await picture.decode();
    const canvas = document.createElement('canvas');
    canvas.width = whole.width * SCALE;
    canvas.height = whole.height * SCALE;
    canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height);
    canvas.toBlob((png) => png && download(`${name}.png`, png));
  };
  return (
    <Box>
      <Box ref={box}>{children}</Box>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end' }} className="no-print">
        <Button size="small" onClick={saveSvg}>
          Chart as SVG
        </Button>
        <Button size="small" onClick={() => void savePng()}>
          as PNG
        </Button>
      </Box>
    </Box>
  );
}
