import { expose } from 'comlink';
import * as make from 'pdfmake/build/pdfmake';
import medium from 'pdfmake/build/fonts/Roboto/Roboto-Medium.ttf?url';
import regular from 'pdfmake/build/fonts/Roboto/Roboto-Regular.ttf?url';
import type { CustomTableLayout, TDocumentDefinitions } from 'pdfmake/interfaces';
import { definitionOf, LAYOUTS, type PaperSheet } from './papers';

interface PdfMake {
  addVirtualFileSystem: (files: Readonly<Record<string, { data: Uint8Array }>>) => void;
  addFonts: (fonts: Readonly<Record<string, Readonly<Record<string, string>>>>) => void;
  addTableLayouts: (layouts: Readonly<Record<string, CustomTableLayout>>) => void;
  createPdf: (definition: TDocumentDefinitions) => { getBlob: () => Promise<Blob> };
}

const pdfMake = ((make as { default?: unknown }).default ?? make) as PdfMake;
pdfMake.addTableLayouts(LAYOUTS);

/** The faces that papers are set in; they have no italics. */
const FACES = { normal: regular, bold: medium };

async function bytesOf(url: string): Promise<Uint8Array> {
  const answer = await fetch(url).catch(() => null);
  if (!answer?.ok) throw new Error('The letters for papers could not be loaded. Try again with the network.');
  return new Uint8Array(await answer.arrayBuffer());
}

let letters: Promise<void> | null = null;

async function loadLetters(): Promise<void> {
  const names = Object.keys(FACES);
  const bytes = await Promise.all(Object.values(FACES).map(bytesOf));
  pdfMake.addVirtualFileSystem(Object.fromEntries(names.map((name, i) => [name, { data: bytes[i] }])));
  pdfMake.addFonts({ Roboto: Object.fromEntries(names.map((name) => [name, name])) });
}

const api = {
  /** Loads the letters while what goes on a paper is still being gathered. */
  load: (): Promise<void> =>
    (letters ??= loadLetters().catch((error: unknown) => {
      letters = null;
      throw error;
    })),
  /** Sets a paper and gives it as a PDF. @throws with a sentence where the letters can't be had */
  async make(sheet: PaperSheet): Promise<Blob> {
    await api.load();
    return pdfMake.createPdf(definitionOf(sheet)).getBlob();
  },
};

export type PaperApi = typeof api;
expose(api);
