import medium from 'pdfmake/build/fonts/Roboto/Roboto-Medium.ttf?url';
import regular from 'pdfmake/build/fonts/Roboto/Roboto-Regular.ttf?url';
import type { TDocumentDefinitions } from 'pdfmake/interfaces';

interface Made {
  getBlob: () => Promise<Blob>;
}
interface PdfMake {
  addVirtualFileSystem: (files: Readonly<Record<string, { data: Uint8Array }>>) => void;
  addFonts: (fonts: Readonly<Record<string, Readonly<Record<string, string>>>>) => void;
  createPdf: (definition: TDocumentDefinitions) => Made;
}

/** The faces that papers are set in; they have no italics. */
const FACES = { normal: regular, bold: medium };

async function bytesOf(url: string): Promise<Uint8Array> {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error('The letters for papers could not be loaded. Try again with the network.');
  return new Uint8Array(await answer.arrayBuffer());
}

/** The package and its letters, loaded when the first paper is made: they are larger than the rest of the page. */
let loaded: Promise<PdfMake> | null = null;

async function load(): Promise<PdfMake> {
  const [make, ...faces] = await Promise.all([
    import('pdfmake/build/pdfmake'),
    ...Object.values(FACES).map(bytesOf),
  ]);
  const api = ((make as { default?: unknown }).default ?? make) as PdfMake;
  const names = Object.keys(FACES);
  api.addVirtualFileSystem(Object.fromEntries(names.map((name, i) => [name, { data: faces[i] }])));
  api.addFonts({ Roboto: Object.fromEntries(names.map((name) => [name, name])) });
  return api;
}

const maker = (): Promise<PdfMake> =>
  (loaded ??= load().catch((error: unknown) => {
    loaded = null;
    throw error;
  }));

/** Loads what makes papers while what goes on one is still being gathered. What keeps it away is said when one is made. */
export const fetchPdfMaker = (): void => void maker().catch(() => undefined);

/** Makes a PDF in this browser. */
export async function makePdf(definition: TDocumentDefinitions): Promise<Blob> {
  return (await maker()).createPdf(definition).getBlob();
}
