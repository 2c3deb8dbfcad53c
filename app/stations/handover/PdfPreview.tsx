import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import { Working } from '../../ui/Working';

/** The package that reads PDFs, loaded when one is first looked at. */
async function reader() {
  const [pdf, { default: workerUrl }] = await Promise.all([
    import('pdfjs-dist'),
    import('pdfjs-dist/build/pdf.worker.min.mjs?url'),
  ]);
  pdf.GlobalWorkerOptions.workerSrc = workerUrl;
  return pdf;
}

const DENSITY = 2;

/** A PDF as it will be saved, page by page. */
export function PdfPreview({ blob, label }: { blob: Blob | null; label: string }) {
  const box = useRef<HTMLDivElement | null>(null);
  const [state, setState] = useState<{ pages: number } | { trouble: string } | null>(null);
  useEffect(() => {
    // Fetched while the paper is still being made; what keeps it away is said when it is drawn.
    void reader().catch(() => undefined);
  }, []);
  useEffect(() => {
    if (!blob) return undefined;
    let ended = false;
    let close: (() => unknown) | null = null;
    void (async () => {
      const pdf = await reader();
      const task = pdf.getDocument({
        data: new Uint8Array(await blob.arrayBuffer()),
        isEvalSupported: false,
      });
      close = () => task.destroy();
      const document_ = await task.promise;
      const drawn: HTMLCanvasElement[] = [];
      for (let n = 1; n <= document_.numPages && !ended; n += 1) {
        const page = await document_.getPage(n);
        const viewport = page.getViewport({ scale: DENSITY });
        const canvas = document.createElement('canvas');
        canvas.width = viewport.width;
        canvas.height = viewport.height;
        canvas.setAttribute('role', 'img');
        canvas.setAttribute('aria-label', `${label}, page ${n} of ${document_.numPages}`);
        await page.render({ canvasContext: canvas.getContext('2d')!, viewport }).promise;
        drawn.push(canvas);
      }
      if (ended) return;
      // All at once, so that the old pages stand until the new ones are there.
      box.current?.replaceChildren(...drawn);
      setState({ pages: document_.numPages });
    })().catch((error: unknown) => {
      if (!ended) setState({ trouble: error instanceof Error ? error.message : String(error) });
    });
    return () => {
      ended = true;
      close?.();
    };
  }, [blob, label]);
  return (
    <Box sx={{ minWidth: 0 }}>
      {state === null && <Working words={`Making ${label.toLowerCase()}`} />}
      {state && 'trouble' in state && (
        <Typography role="alert" color="error">
          The preview could not be drawn: {state.trouble}. The file can be saved all the same.
        </Typography>
      )}
      {state && 'pages' in state && (
        <Typography variant="body2" color="textSecondary" data-testid="preview-pages" sx={{ mb: 0.5 }}>
          {state.pages} {state.pages === 1 ? 'page' : 'pages'}
        </Typography>
      )}
      <Box
        ref={box}
        sx={{
          '& canvas': {
            display: 'block',
            width: '100%',
            height: 'auto',
            mb: 1.5,
            border: 1,
            borderColor: 'divider',
            bgcolor: '#fff',
          },
        }}
      />
    </Box>
  );
}
