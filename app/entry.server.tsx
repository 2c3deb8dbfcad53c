import { randomBytes } from 'node:crypto';
import { PassThrough } from 'node:stream';
import { createReadableStreamFromReadable } from '@react-router/node';
import { renderToPipeableStream } from 'react-dom/server';
import { ServerRouter, type EntryContext } from 'react-router';
import { NonceContext } from './nonce';

/**
 * No other origin, ever. Styles may stand inline, since the component library and the charts set them; scripts need the
 * page's nonce. WebAssembly is used only by the pose model, in a page of its own.
 */
function policy(nonce: string): string {
  return [
    "default-src 'none'",
    `script-src 'self' 'nonce-${nonce}'`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "media-src 'self' blob:",
    "font-src 'self'",
    `connect-src 'self' blob:${import.meta.env.DEV ? ' ws:' : ''}`,
    "worker-src 'self' blob:",
    "frame-src 'self'",
    "manifest-src 'self'",
    "form-action 'self'",
    "base-uri 'none'",
    "frame-ancestors 'none'",
  ].join('; ');
}

export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  context: EntryContext,
) {
  const nonce = randomBytes(16).toString('base64');
  return new Promise<Response>((resolve, reject) => {
    let failed = false;
    const { pipe, abort } = renderToPipeableStream(
      <NonceContext value={nonce}>
        <ServerRouter context={context} url={request.url} nonce={nonce} />
      </NonceContext>,
      {
        nonce,
        onShellReady() {
          const body = new PassThrough();
          headers.set('Content-Type', 'text/html; charset=utf-8');
          headers.set('Content-Security-Policy', policy(nonce));
          headers.set('Cache-Control', 'no-store');
          resolve(
            new Response(createReadableStreamFromReadable(body), { headers, status: failed ? 500 : status }),
          );
          pipe(body);
        },
        onShellError: reject,
        onError(error: unknown) {
          failed = true;
          console.error(error);
        },
      },
    );
    setTimeout(abort, 6000);
  });
}
