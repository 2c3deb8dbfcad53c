import type { TDocumentDefinitions } from 'pdfmake/interfaces';

interface Made {
  getBlob: () => Promise<Blob>;
}
interface PdfMake {
  addVirtualFileSystem: (files: unknown) => void;
  createPdf: (definition: TDocumentDefinitions) => Made;
}

/** The package and its fonts, loaded when the first paper is made: they are larger than the rest of the page. */
let loaded: Promise<PdfMake> | null = null;

async function load(): Promise<PdfMake> {
  const [make, fonts] = await Promise.all([
    import('pdfmake/build/pdfmake'),
    import('pdfmake/build/vfs_fonts'),
  ]);
  const api = ((make as { default?: unknown }).default ?? make) as PdfMake;
  api.addVirtualFileSystem((fonts as { default?: unknown }).default ?? fonts);
  return api;
}

/** Makes a PDF in this browser. */
export async function makePdf(definition: TDocumentDefinitions): Promise<Blob> {
  loaded ??= load();
  const api = await loaded.catch((error: unknown) => {
    loaded = null;
    throw error;
  });
  return api.createPdf(definition).getBlob();
}
